using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>What the tuition of one tax comes to: federal, or the province's.</summary>
/// <param name="Unused">Left of earlier years.</param>
/// <param name="Claimed">Used by the student.</param>
/// <param name="ToSpouse">What is transferred to the spouse; nothing where there is no transfer.</param>
/// <param name="Before">Amounts that rank before tuition; given later.</param>
/// <param name="Absorbing">Taxable income, or above the first bracket the tax at the lowest rate, that amounts can absorb; given later.</param>
public sealed record TuitionOfTax(AmountLine Unused, AmountLine Claimed, Amount ToSpouse, AmountLine Before, AmountLine Absorbing);

/// <summary>
/// Tuition of a student: first the student's own tax is reduced, the unused amounts of earlier years before those of the year; what is left of the year's, up to the limit,
/// may be transferred to one person; the rest is carried forward on the student's return. Federal and provincial amounts go each their own way.
/// </summary>
public sealed class TuitionForm : Form
{
    private sealed record Slip(AmountLine Fees, AmountLine Part, AmountLine Full);

    /// <summary>Federal tuition, and that of the province where it has one.</summary>
    public readonly TuitionOfTax Federal, Ontario, BritishColumbia, Alberta;

    /// <summary>Training credit claimed; nothing before there was one.</summary>
    public readonly Amount Training = 0;

    /// <summary>Declares the form.</summary>
    public TuitionForm(Definition definition, FederalLaw law, OntarioLaw ontario, BritishColumbiaLaw britishColumbia, ScopeForm scope, TaxpayerForm taxpayer, FamilyForm family)
        : base(definition, "tuition", "Tuition", "The student's own return: slips, what the student uses, what is transferred, what is carried forward.", scope.Student)
    {
        var slips = Repeating("slips", "Slips T2202, Tuition and Enrolment Certificate", "slip T2202", row =>
        {
            var school = row.Text("institution", "Institution").From("slip T2202, institution").Required();
            row.NamedBy(school);
            var student = row.Identifier("student", "Student's social insurance number", CanadaIdentifiers.SocialInsurance).From("slip T2202, student");
            var fees = row.Entry("fees", "Eligible tuition fees").From("slip T2202, box 26").Required();
            var part = row.Count("months-part", "Months part-time").Between(0, 12).From("slip T2202, box 24").Unit("months");
            var full = row.Count("months-full", "Months full-time").Between(0, 12).From("slip T2202, box 25").Unit("months");
            row.Error("slip-of-another-student", student.IsFilled() & taxpayer.SocialInsurance.IsFilled() & !student.SameAs(taxpayer.SocialInsurance),
                "This slip belongs to another student and counts on that student's return only: enter it there. What the student does not use can be transferred to the parent.", student);
            row.Error("tuition-slip-twice", row.RepeatsEarlier(school, fees), "This slip is entered twice: same institution, same fees.", school);
            row.Note("fees-too-low", fees > 0 & fees <= law.TuitionLeast, $"Fees of {fees} at one institution do not count: they must exceed {law.TuitionLeast}.", fees);
            var own = !(student.IsFilled() & taxpayer.SocialInsurance.IsFilled() & !student.SameAs(taxpayer.SocialInsurance));
            return new Slip(row.Line("counts", "Fees that count", If(own & fees > law.TuitionLeast, fees, 0)).Law("ITA 118.5"), part, full);
        }, "ITA 118.5; slip T2202");

        Section("This year", "ITA 118.5, 122.91");
        var feesTotal = Line("fees", "Tuition fees", slips.Sum(s => s.Fees)).Subtotal();
        if (law.TrainingShare is { } share)
        {
            var balance = Entry("training-balance", "Training credit limit").OfOneYear().From("last assessment notice").When(taxpayer.Age >= 25);
            var claim = Answer("training-claimed", "Claim the training credit?").OfOneYear().When(balance > 0).Elective("it reduces the tuition for the credit below");
            Training = Line("training", "Training credit", If(claim, Min(balance, Round(feesTotal * share, ToCents)), 0)).Law("ITA 122.91; line 45350");
        }

        var education = law.EducationFull is { } full && law.EducationPart is { } part && law.TextbookFull is { } bookFull && law.TextbookPart is { } bookPart
            ? Line("education", "Education and textbook amounts", slips.Sum(s => (s.Full * (full + (Amount)bookFull)) + (s.Part * (part + (Amount)bookPart)))).Law("ITA 118.6, repealed from 2017")
            : null;
        var current = Line("current", "Tuition of the year", feesTotal - Training + (education ?? (Amount)0)).Law("line 32000").Subtotal();

        Section("Whom the student names", "ITA 118.81, 118.8, 118.9");
        var designee = Choice("designee", "Transfer to", [new("none", "Nobody: carry forward"), new("parent", "Parent, own or of the spouse"), new("grandparent", "Grandparent, own or of the spouse"), new("spouse", "Spouse")])
            .OfOneYear().Required().Hint("one person only");
        var named = designee.Is("parent") | designee.Is("grandparent");
        Text("designee-name", "That person's name").OfOneYear().When(named).RequiredWhen(named);
        Identifier("designee-sin", "That person's social insurance number", CanadaIdentifiers.SocialInsurance).OfOneYear().When(named).RequiredWhen(named);
        var signed = Answer("designation-signed", "Designation signed by the student?").OfOneYear().When(!designee.Is("none") & designee.IsFilled()).RequiredWhen(!designee.Is("none") & designee.IsFilled());
        Error("designation-unsigned", signed.IsFilled() & !signed, "The student must sign the designation on the slip before an amount is transferred.", signed);
        Warn("spouse-claims-student", named & family.SpouseClaims, "The spouse claims the student and a parent or grandparent is named for the tuition: only one person may receive the transfer. Name the spouse, or nobody.", designee);
        Error("spouse-named-without-spouse", designee.Is("spouse") & !scope.Spouse, "The spouse is named and Scope says there is none; correct one of them.", designee);

        Federal = Tax("federal", "Federal amounts", "ITA 118.5, 118.61, 118.81", null, current, law.TuitionTransfer);
        BritishColumbia = Tax("bc", "British Columbia amounts", "Income Tax Act (BC)", scope.LivesIn("bc"), britishColumbia.ComputesTax ? feesTotal - Training : null, britishColumbia.ComputesTax ? britishColumbia.TuitionTransfer : null);
        var ontarioCurrent = ontario.CreditsTuition ? feesTotal + slips.Sum(s => (s.Full * ontario.EducationFull) + (s.Part * ontario.EducationPart)) : null;
        Ontario = Tax("ontario", "Ontario amounts", "Taxation Act, 2007 (Ontario)", scope.LivesIn("on"), ontarioCurrent, ontario.CreditsTuition ? ontario.TuitionTransfer : null);
        Alberta = Tax("alberta", "Alberta amounts", "Alberta Personal Income Tax Act", scope.LivesIn("ab"), null, null);

        Error("no-tuition", scope.Student & slips.RowCount.Equals(0) & Federal.Unused.Equals(0), "Add the slips T2202, or the unused amounts of earlier years, or answer in Scope that there is no tuition.", scope.Student);

        TuitionOfTax Tax(string key, string title, string citation, Condition? when, Amount? ofYear, Parameter? ceiling)
        {
            Section(title, citation, when, name: key);
            var unused = Entry($"{key}-unused", "Unused amounts of earlier years").OfOneYear().From("last assessment notice")
                .TiedTo(new TiedReturn(IndividualReturn.ReturnId, 1).Line($"{Key}.{key}-carried"));
            var before = Line($"{key}-before", "Amounts that rank before tuition").Law(key == "federal" ? "ITA 118.92" : citation);
            var absorbing = Line($"{key}-absorbing", "Income they are set against").Law(key == "federal" ? "ITA 118.61" : citation);
            var room = Line($"{key}-room", "Left for tuition", AtLeastZero(absorbing - before));
            var usedBefore = Line($"{key}-used-before", "Used of earlier years", Min(unused, room));
            if (ofYear is null || ceiling is not { } limit)
            {
                // What was left when the province abolished the amount is used by the student; nothing is added and nothing transferred.
                var usedOnly = Line($"{key}-claimed", "Used by the student", usedBefore).Law(citation).Subtotal();
                Line($"{key}-carried", "Carried forward on the student's return", unused - usedOnly).Law(citation).Final();
                return new TuitionOfTax(unused, usedOnly, 0, before, absorbing);
            }

            var federal = key == "federal";
            var currentAmount = Line($"{key}-current", "Tuition of the year", ofYear);
            var used = Line($"{key}-used", "Used of the year", Min(currentAmount, room - usedBefore));
            var claimed = Line($"{key}-claimed", "Used by the student", usedBefore + used).Law(federal ? "line 32300" : citation).Subtotal();
            var most = Line($"{key}-most", "Can be transferred, at most", AtLeastZero(Min(currentAmount, limit) - used)).Law(federal ? "ITA 118.81" : citation);
            var chosen = Entry($"{key}-chosen", "Transferred, if less than all").OfOneYear().When(!designee.Is("none") & designee.IsFilled()).Hint("blank: all of it");
            var transferred = Line($"{key}-transferred", "Transferred", If(designee.Is("none") | !designee.IsFilled(), 0, If(chosen.IsFilled(), Min(chosen, most), most))).Law(federal ? "line 32700" : citation).Subtotal();
            Error($"{key}-transfer-above-most", chosen > most,
                $"{chosen} is to be transferred and at most {most} can be: {limit} less what the student uses of the year's tuition, {used}. Unused amounts of earlier years cannot be transferred.", chosen);
            Line($"{key}-to-parent", "of which to the parent or grandparent named", If(named, transferred, 0));
            var toSpouse = Line($"{key}-to-spouse", "of which to the spouse", If(designee.Is("spouse"), transferred, 0));
            Line($"{key}-carried", "Carried forward on the student's return", unused + currentAmount - claimed - transferred).Law(federal ? "ITA 118.61" : citation).Final();
            return new TuitionOfTax(unused, claimed, toSpouse, before, absorbing);
        }
    }
}
