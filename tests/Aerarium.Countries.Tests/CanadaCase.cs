using Aerarium.Countries.Canada.Individual;

namespace Aerarium.Countries.Tests;

/// <summary>Cases of Canada's return of an individual.</summary>
public sealed class CanadaCase : ReturnCase<CanadaCase>
{
    private readonly int _year;

    public CanadaCase(int year, string province, string born = "1980-05-06")
        : base(Catalogue.Get(IndividualReturn.ReturnId, year), new DateOnly(year + 1, 3, 1))
    {
        _year = year;
        With("scope.resident", "yes").With("scope.province", province).With("taxpayer.birth-date", born).With("taxpayer.sin", "012345674");
    }

    /// <summary>A finding is there on one side of its edge and not on the other.</summary>
    public static void Turns(string finding, CanadaCase with, CanadaCase without)
    {
        Assert.Contains(with.Evaluate().Findings, f => f.Id == finding);
        Assert.DoesNotContain(without.Evaluate().Findings, f => f.Id == finding);
    }

    /// <summary>A slip T4 of the province of residence.</summary>
    public CanadaCase Slip(decimal income, decimal plan = 0, decimal second = 0, decimal premiums = 0, decimal tax = 0, params (string, object)[] more) => Scope("employment").Row(
        "employment.slips",
        [("payer", $"Works {Entries.RowsOf("employment.slips").Count}"), ("place", Entries.Values["scope.province"]), ("income", income), ("plan", plan), ("second", second), ("premiums", premiums), ("tax", tax), .. more]);

    /// <summary>A slip T4 without contributions.</summary>
    public CanadaCase Exempt(decimal income, decimal tax = 0) => Slip(income, 0, 0, 0, tax, ("plan-exempt", "yes"), ("premiums-exempt", "yes"));

    /// <summary>A spouse with a net income.</summary>
    public CanadaCase Spouse(decimal netIncome, bool claimed = true) => Scope("spouse")
        .With("taxpayer.marital-status", "married").With("taxpayer.spouse-net-income", netIncome).With("family.claim-spouse", claimed ? "yes" : "no");

    /// <summary>Tuition fees.</summary>
    public CanadaCase Tuition(decimal fees, int full = 8) => Scope("student").Row("tuition.slips", ("institution", $"College {Entries.RowsOf("tuition.slips").Count}"), ("fees", fees), ("months-full", full));

    /// <summary>A pension for which the pension amount is given.</summary>
    public CanadaCase Pension(decimal amount, decimal tax = 0, string kind = "plan") => Scope("pension").Row(
        "benefits.pensions", ("payer", $"Fund {Entries.RowsOf("benefits.pensions").Count}"), ("kind", kind), ("amount", amount), ("tax", tax));

    /// <summary>A medical receipt in the year.</summary>
    public CanadaCase Receipt(decimal amount, string? date = null) => Scope("medical").Row(
        "medical.receipts", ("date", date ?? $"{_year}-06-15"), ("person", "self"), ("what", $"Dentist {Entries.RowsOf("medical.receipts").Count}"), ("amount", amount));

    /// <summary>A gift, all that counts claimed.</summary>
    public CanadaCase Gift(decimal amount) => Scope("gifts").With("gifts.how", "all").Row("gifts.gifts", ("charity", $"Charity {Entries.RowsOf("gifts.gifts").Count}"), ("date", $"{_year}-06-15"), ("amount", amount));

    /// <summary>A business without expenses.</summary>
    public CanadaCase Business(decimal profit) => Scope("business").Row("business.businesses", ("description", "Trade"), ("industry", "541990"), ("place", Entries.Values["scope.province"]), ("gross", profit));
}
