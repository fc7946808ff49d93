using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Countries.Philippines.Parameters;

namespace Aerarium.Countries.Philippines.IndividualAnnual;

/// <summary>What goes with the return, counted by kind from the documents attached to it.</summary>
public sealed class AttachmentsForm : Form
{
    /// <inheritdoc />
    public override bool OfOneYear => true;

    /// <summary>Declares the form.</summary>
    public AttachmentsForm(
        Definition definition,
        IncomeTaxLaw law,
        ScopeForm scope,
        (CompensationForm Compensation, BusinessForm Business) own,
        (CompensationForm Compensation, BusinessForm Business) spouse)
        : base(definition, "attachments", "Attachments", "Documents that go with the return; attach them here, they are counted by kind.")
    {
        Section("Compensation", "NIRC s. 83; RR 11-2018", scope.Taxpayer.Compensation | scope.Spouse.Compensation);
        var certificates = Attachments("compensation-certificates", "Certificates of compensation");
        var employers = Line("employers", "Employers on this return", own.Compensation.Employers + spouse.Compensation.Employers);

        var large = Audited(own.Business) | Audited(spouse.Business);
        Section("Business and profession", "NIRC s. 232", scope.Taxpayer.Business | scope.Spouse.Business);
        var statements = Attachments("financial-statements", "Audited financial statements").When(large);

        Section("Credits", "NIRC s. 34(C), 58", scope.Taxpayer.ForeignTax | scope.Spouse.ForeignTax);
        var foreign = Attachments("foreign-tax", "Proofs of tax paid abroad");

        Section("Other");
        var others = Attachments("other", "Other documents");
        Line("total", "Documents attached", certificates + statements + foreign + others).Subtotal();

        Warn("certificates-missing", certificates < employers, "A certificate of compensation goes with the return for every employer; attach it, or say why it is missing.", certificates);
        Error("unaudited", large & statements.Equals(0), "Audited financial statements go with this return (NIRC s. 232); attach them.", statements);
        Warn("foreign-proof-missing", (scope.Taxpayer.ForeignTax | scope.Spouse.ForeignTax) & foreign.Equals(0), "Proof of the tax paid abroad goes with the return; attach it.", foreign);

        Condition Audited(BusinessForm business) => business.Itemised & business.Gross > law.EightPerCentCeiling;
    }
}
