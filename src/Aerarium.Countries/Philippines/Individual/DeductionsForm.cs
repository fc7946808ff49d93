using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.Individual;

/// <summary>Itemised deductions, those with a ceiling cut to it, and losses of earlier years.</summary>
public sealed class DeductionsForm : Form
{
    private sealed record Expense(AmountLine Amount);

    private sealed record Loss(AmountLine Usable, AmountLine Used);

    private static readonly Choice[] Kinds =
    [
        new("amortisation", "Amortisation"), new("bad-debts", "Bad debts"), new("commissions", "Commissions"), new("communication", "Communication, light and water"),
        new("depletion", "Depletion"), new("depreciation", "Depreciation"), new("fringe-benefits", "Fringe benefits"), new("fuel", "Fuel and oil"), new("insurance", "Insurance"),
        new("janitorial", "Janitorial and messenger services"), new("losses", "Losses"), new("management", "Management and consultancy fees"), new("supplies", "Office supplies"),
        new("other-services", "Other services"), new("pension", "Pension trust"), new("professional-fees", "Professional fees"), new("rent", "Rent"),
        new("repairs-labour", "Repairs, labour"), new("repairs-materials", "Repairs, materials"), new("research", "Research and development"), new("royalties", "Royalties"),
        new("salaries", "Salaries and wages"), new("security", "Security services"), new("social-contributions", "Social, health and housing contributions"),
        new("taxes", "Taxes and licences"), new("tolling", "Tolling fees"), new("training", "Training"), new("transport", "Transport and travel"),
        new("advertising", "Advertising and promotion"), new("miscellaneous", "Miscellaneous"),
    ];

    /// <inheritdoc />
    public override string OpensFor => "business income by the graduated table with itemised deductions, or losses of earlier years";

    /// <summary>Ordinary and special deductions.</summary>
    public readonly AmountLine Ordinary, Special;

    /// <summary>The losses of earlier years that are used; nothing in a return that does not ask for them row by row.</summary>
    public readonly Amount LossesUsed = 0;

    /// <summary>The losses of earlier years, with what is left of each.</summary>
    public const string LossesSection = "losses";

    /// <summary>Declares the form.</summary>
    public DeductionsForm(Definition definition, IncomeTaxLaw law, Column column, BusinessForm business, DeductionsForm? beside = null, RowTie? lossesFrom = null)
        : base(definition, "deductions", "Itemised deductions", "What was spent, by kind; ceilings are applied below.",
            column.Losses is null ? column.Business & business.Itemised : column.Business & (business.Itemised | column.Losses), Column.Spouse(beside))
    {
        var expenses = Repeating("expenses", "Ordinary deductions", "deduction", row =>
        {
            var kind = row.Choice("kind", "Kind", Kinds).Required();
            row.NamedBy(kind);
            row.ListedBy(kind);
            return new Expense(row.Entry("amount", "Amount").InWholeUnits().From("ledger").Required());
        }, "NIRC s. 34(A) to (J)", business.Itemised);

        Section("With a ceiling", "NIRC s. 34", business.Itemised);
        var entertainment = Entry("entertainment", "Entertainment and representation").InWholeUnits().From("ledger").Law("NIRC s. 34(A)(1)(a)(iv); RR 10-2002");
        var onGoods = If(business.NetSales > 0, Round(entertainment * business.NetGoods / business.NetSales, ToUnits), 0);
        var forGoods = Line("entertainment-goods", "of which on goods, cut to its ceiling",
            Min(onGoods, Round(law.EntertainmentGoods * business.NetGoods, ToUnits))).Law("RR 10-2002");
        var forServices = Line("entertainment-services", "of which on services, cut to its ceiling",
            Min(entertainment - onGoods, Round(law.EntertainmentServices * business.NetServices, ToUnits))).Law("RR 10-2002");
        var interest = Entry("interest", "Interest paid").InWholeUnits().From("statements").Law("NIRC s. 34(B)");
        var finalTax = Entry("interest-final-tax", "Interest income under final tax").InWholeUnits().From("statements").When(interest.IsFilled());
        var interestAllowed = Line("interest-allowed", "Interest allowed", AtLeastZero(interest - Round(InterestCut(law, interest, finalTax), ToUnits))).Law("NIRC s. 34(B)(1)");
        var before = Line("before-contributions", "Ordinary deductions before contributions",
            expenses.Sum(e => e.Amount) + forGoods + forServices + interestAllowed).Subtotal();

        Section("Contributions", "NIRC s. 34(H)", business.Itemised);
        var limited = Entry("contributions-limited", "Contributions with a limit").InWholeUnits().From("receipts").Law("NIRC s. 34(H)(1)");
        var full = Entry("contributions-full", "Contributions deductible in full").InWholeUnits().From("receipts").Law("NIRC s. 34(H)(2)");
        var gross = Line("gross-income", "Gross income from business", business.NetSales - business.CostOfSales);
        var limit = Line("contributions-limit", "Limit of contributions", law.ContributionsLimit * AtLeastZero(gross - before), ToUnits).Law("NIRC s. 34(H)(1)");
        var limitedAllowed = Line("contributions-allowed", "Limited contributions allowed", Min(limited, limit));
        Ordinary = Line("ordinary", "Ordinary deductions", before + limitedAllowed + full).Final();

        var byLaw = SpecialByLaw(law, business);
        var specials = Repeating("special", "Other special deductions", "deduction", row =>
        {
            row.NamedBy(row.Text("basis", "Legal basis").Required());
            return new Expense(row.Entry("amount", "Amount").InWholeUnits().Required());
        }, when: business.Itemised);

        Section("Before losses of earlier years", "NIRC s. 34(D)(3)", business.Itemised);
        Special = Line("special-total", "Special deductions", byLaw + specials.Sum(s => s.Amount));
        var beforeLosses = Line("before-losses", "Business income before losses of earlier years", gross - Ordinary - Special);
        Line("own-loss", "Loss of this period, to be used in later years", AtLeastZero(0 - beforeLosses)).Law("NIRC s. 34(D)(3)");

        if (column.Losses is not null)
        {
            LossesUsed = Losses(law, business, column.Losses, beforeLosses, lossesFrom);
        }

        if (law.WithholdingIsACondition)
        {
            Note("withheld-condition", expenses.Sum(e => e.Amount) > 0,
                "An expense that is subject to withholding is deducted only where tax was withheld and paid over (NIRC s. 34(K)); check the lists of payees.", before);
        }

        Warn("entertainment-cut", forGoods + forServices < entertainment,
            $"{entertainment - forGoods - forServices} of entertainment is above the ceiling and is lost.", entertainment);
        Warn("contributions-cut", limitedAllowed < limited, $"{limited - limitedAllowed} of the contributions is above the limit and is lost.", limited);
    }

    /// <summary>Deductions of laws of their own, beside the ordinary ones: what was paid is entered, what is deducted of it is computed.</summary>
    private AmountLine SpecialByLaw(IncomeTaxLaw law, BusinessForm business)
    {
        Section("Special deductions", "RA 9994, 7277, 10754, 9999, 8525", business.Itemised);
        var discounts = Entry("discounts-given", "Discounts given to senior citizens and to persons with disability").InWholeUnits().From("sales ledger").Law("RA 9994; RA 10754");
        var seniors = Entry("senior-pay", "Pay of senior citizens employed").InWholeUnits().From("payroll");
        var ofSeniors = Line("senior-pay-extra", "Additional deduction for their pay", law.SeniorPayExtra * seniors, ToUnits).Law("RA 9994");
        var disabled = Entry("disabled-pay", "Pay of persons with disability employed").InWholeUnits().From("payroll");
        var ofDisabled = Line("disabled-pay-extra", "Additional deduction for their pay", law.DisabledPayExtra * disabled, ToUnits).Law("RA 7277");
        var legalAid = Entry("legal-aid", "Free legal assistance: what it would have cost").InWholeUnits().From("certificate of the legal assistance");
        var legalAidAllowed = Line("legal-aid-allowed", "Free legal assistance deducted", Min(legalAid, Round(law.LegalAidShare * business.NetServices, ToUnits))).Law("RA 9999");
        var school = Entry("school-gifts", "Contributions to adopted public schools").InWholeUnits().From("agreement with the school");
        var ofSchool = Line("school-gifts-extra", "Additional deduction for them", law.SchoolGiftsExtra * school, ToUnits).Law("RA 8525");
        Note("extra-pay-conditions", seniors + disabled > 0,
            "The additional deduction is for staff who are registered as such and whose pay bore withholding tax; keep the registrations with the payroll.", seniors, disabled);
        Note("discount-conditions", discounts > 0, "Discounts are deducted under RA 9994 and RA 10754; check their conditions, and keep what shows that the buyers were entitled.", discounts);
        Warn("legal-aid-cut", legalAid > legalAidAllowed, $"{legalAid - legalAidAllowed} of free legal assistance is above the limit and is lost.", legalAid);
        Note("school-gifts-besides", school > 0, "The contribution itself is entered among the contributions; this is the part deducted besides.", school);
        return Line("special-by-law", "Special deductions by law", discounts + ofSeniors + ofDisabled + legalAidAllowed + ofSchool).Subtotal();
    }

    /// <summary>By how much interest paid is cut for interest income under final tax; where the part changed in July, each half of the year by its own.</summary>
    private Amount InterestCut(IncomeTaxLaw law, AmountLine interest, AmountLine finalTax)
    {
        if (!law.InterestCutChangesInJuly || Definition.Period == Periods.Quarter(1) || Definition.Period == Periods.Quarter(2))
        {
            return (law.InterestCutChangesInJuly ? law.InterestCutToJune : law.InterestCut) * finalTax;
        }

        var toJune = Entry("interest-final-tax-to-june", "of which until 30 June").InWholeUnits().From("statements").When(interest.IsFilled());
        Error("interest-to-june", toJune > finalTax, "More interest income is entered until 30 June than in the whole period; correct one of them.", toJune, finalTax);
        return (law.InterestCutToJune * toJune) + (law.InterestCut * (finalTax - toJune));
    }

    private AmountLine Losses(IncomeTaxLaw law, BusinessForm business, AnswerLine carried, AmountLine beforeLosses, RowTie? from)
    {
        var losses = Repeating(LossesSection, "Losses of earlier years", "loss", row =>
        {
            var year = row.CalendarYear("year", "Year it arose").Between(2009, law.Year - 1).From("return of that year").Required();
            row.NamedBy(year);
            var loss = row.Entry("loss", "Loss").InWholeUnits().From("return of that year").Required();
            var applied = row.Entry("applied", "Used in years before").InWholeUnits().From("returns since");
            var last = row.NumberLine("last-year", "Last year in which it may be used",
                year + (law.Year <= 2020 ? law.LossYears : If(year.Equals(2020) | year.Equals(2021), law.LossYearsOf2020And2021, law.LossYears))).Law("NIRC s. 34(D)(3); RR 25-2020");
            row.Error("loss-expired", year.IsFilled() & last < law.Year, "This loss can no longer be used; remove it.", year);
            row.Error("loss-overused", applied > loss, "More was used than the loss; check the returns since.", applied);
            row.Error("loss-year-twice", row.RepeatsEarlier(year), "This year's loss is entered twice; keep one row for each year.", year);
            var usable = row.Line("usable", "Still usable", If(last < law.Year, 0, AtLeastZero(loss - applied))).Law("NIRC s. 34(D)(3)");
            var used = row.Line("used", "Used this year, the oldest first",
                Min(usable, AtLeastZero(beforeLosses - row.SumOfEarlier(usable, year)))).Law("NIRC s. 34(D)(3); RR 14-2001");
            row.Line("left", "Left for later years", If(last <= law.Year, 0, usable - used)).Law("NIRC s. 34(D)(3)");
            var expiring = row.Line("expiring", "Lost, because this is its last year", If(last.Equals(law.Year), usable - used, 0));
            row.Note("loss-expires", expiring > 0, $"{expiring} of this loss can be used for the last time this year and is lost.", used);
            return new Loss(usable, used);
        }, "NIRC s. 34(D)(3); RR 14-2001, 25-2020", carried);
        if (from is not null)
        {
            losses.TiedTo(from);
        }

        Note("losses-wait", carried & (business.Standard | business.EightPerCent) & (losses.Sum(l => l.Usable) > 0),
            "Under the method chosen no loss is used, and time runs on: what is left goes on until its last year.", carried);
        Section("Losses used", "NIRC s. 34(D)(3)", carried);
        return Line("losses-used", "Losses used this year", losses.Sum(l => l.Used)).Law("NIRC s. 34(D)(3)").Subtotal();
    }
}
