using Aerarium.Core.Definitions;
using Aerarium.Countries.Philippines.Parameters;

namespace Aerarium.Countries.Philippines.WithholdingCredits;

/// <summary>
/// The list of tax withheld at source from one payee in one quarter, a row for each payer's certificate (RR 2-2006). It supports
/// the credit claimed in the quarterly return or, for the fourth quarter, in the annual one.
/// </summary>
public sealed class WithholdingCreditsReturn : Definition
{
    /// <summary>Id of the return.</summary>
    public const string ReturnId = "ph/withholding-credits";

    /// <summary>The definition for a quarter of a taxable year.</summary>
    public WithholdingCreditsReturn(int year, string period)
        : base(ReturnId, year, period)
    {
        var law = IncomeTaxLaw.For(year);
        var quarter = Periods.QuarterOf(period);
        Deadlines =
        [
            (quarter == 4 ? law.Filing : law.OfQuarter(quarter, "filing")) with
            {
                Label = "List to be sent, with the return it supports", Source = "RR 2-2006; from memory", Confidence = Confidence.Likely,
            },
        ];
        var payee = new PayeeForm(this);
        var rows = new CertificatesForm(this, payee, WithholdingCodes.For(year));
        _ = new ListDeclarationForm(this);
        Seal(
            new KeyFigure("Certificates", rows.Certificates.Line, ""),
            new KeyFigure("Income payments", rows.Payments.Line, ">"),
            new KeyFigure("By the codes", rows.Implied.Line, ">"),
            new KeyFigure("Tax withheld", rows.Withheld.Line, ">"),
            new KeyFigure("Credit", rows.Credit.Line, "="));
    }

    /// <inheritdoc />
    public override string Title => "Philippines, list of tax withheld at source";

    /// <inheritdoc />
    public override string Country => "Philippines";

    /// <inheritdoc />
    public override string Currency => "PHP";

    /// <inheritdoc />
    public override Core.Entries.DateOrder Dates => PhilippinesCountry.Dates;

    /// <inheritdoc />
    public override IReadOnlyList<Deadline> Deadlines { get; }

    /// <inheritdoc />
    public override bool HasBalance => false;

    /// <inheritdoc />
    public override (string ToPay, string Overpaid) BalanceWords => ("Credit", "Credit");
}
