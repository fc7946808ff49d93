namespace Aerarium.StandIn.Kenya;

/// <summary>The arithmetic of an employee's return as Kenya's simulated authority checks it.</summary>
public sealed class EmployeeReturnRules : IDocumentRules
{
    /// <inheritdoc />
    public DocumentHeader Header { get; } = new("Taxpayer/Pin", "Taxpayer/Name", "Header/YearOfIncome", "Header/Kind", "Agent/Pin");

    /// <inheritdoc />
    public AssessedFigures Assessed { get; } = new(
        ["Computation/Income", "Computation/Deductions", "Computation/TaxableIncome", "Computation/Tax", "Computation/Reliefs", "Computation/AlreadyPaid", "Computation/Balance"],
        "Computation/AlreadyPaid",
        "Computation/Balance");

    /// <inheritdoc />
    public IEnumerable<Reason> Arithmetic(Document document)
    {
        decimal Of(string name) => document.Amount($"Computation/{name}");

        (string Name, decimal Expected, string Rule)[] checks =
        [
            ("Gross", document.Sum("Employers/Employer", "Gross"), "the sum over employers"),
            ("Deductions", document.Amount("Deductions/RetirementAllowed") + document.Amount("Deductions/InterestAllowed") + document.Amount("Deductions/MedicalAllowed")
                + document.Amount("Deductions/HealthInsurance") + document.Amount("Deductions/HousingLevy"), "the sum of the deductions"),
            ("TaxableIncome", Math.Max(0, Of("Income") - Of("Deductions")), "income less deductions"),
            ("Reliefs", document.Amount("Reliefs/Personal") + document.Amount("Reliefs/Insurance") + document.Amount("Reliefs/Housing") + document.Amount("Reliefs/Medical"), "the sum of the reliefs"),
            ("NetTax", Math.Max(0, Of("Tax") - Of("Reliefs")), "tax less reliefs"),
            ("TaxDeducted", document.Sum("Employers/Employer", "TaxDeducted"), "the sum over employers"),
            ("AlreadyPaid", Of("TaxDeducted") + document.Sum("Payments/Payment", "Amount"), "tax deducted and payments"),
            ("Balance", Of("NetTax") - Of("AlreadyPaid"), "net tax less what is already paid"),
        ];
        return checks.Select(c => document.Differs($"Computation/{c.Name}", c.Expected, c.Rule)).OfType<Reason>();
    }
}
