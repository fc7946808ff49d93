using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Canada.Company;
using Aerarium.Countries.Canada.Parameters;
using Aerarium.Countries.Common;

namespace Aerarium.Countries.Canada.CompanyAlberta;

/// <summary>The period, the establishment in Alberta, and where Alberta's amounts differ from the federal ones.</summary>
public sealed class AlbertaScopeForm : Form
{
    /// <summary>First and last day of the period.</summary>
    public readonly DateLine Begin, End;

    /// <summary>Days of the period.</summary>
    public readonly AmountLine Days;

    /// <summary>Whether the period is shorter than twelve months.</summary>
    public readonly AnswerLine Short;

    /// <summary>Where Alberta's amounts differ, and what else applies.</summary>
    public readonly AnswerLine First, DepreciationDiffers, OtherDifferences, Gifts, Losses, Instalments, ThirdParty;

    /// <summary>The day of filing.</summary>
    public readonly DateLine FilingDay;

    /// <summary>Declares the form.</summary>
    public AlbertaScopeForm(Definition definition, CorporationLaw law)
        : base(definition, "scope", "Scope", "The period is that of the federal return; say where Alberta's amounts differ from it.")
    {
        var year = law.Year;
        Section("The period", "ACTA 36");
        Begin = Date("begin", "First day").OfOneYear().Required().TiedTo(definition.Federal("scope.begin"));
        End = Date("end", "Last day").OfOneYear().Required().TiedTo(definition.Federal("scope.end"));
        Days = NumberLine("days", "Days", Law.If(Begin.IsFilled() & End.IsFilled(), Law.DaysOf(Begin, End), 0));
        Short = Line("short", "Shorter than twelve months", law.IsShort(Begin, End, Days));
        First = Answer("first", "First return of the company?").OfOneYear().Required().TiedTo(definition.Federal("scope.first"));
        FilingDay = Line("filing-day", "Return to be filed by", CompanyDays.FilingDay(End, year)).Law("ACTA 36");

        Section("Permanent establishment in Alberta", "ACTA 2");
        var establishment = Answer("establishment", "A permanent establishment in Alberta in the period?").UsuallyYes().Required();
        Date("establishment-from", "since, if it began in the period").OfOneYear().When(establishment);
        Date("establishment-until", "until, if it ended in the period").OfOneYear().When(establishment);
        var filed = Answer("federal-filed", "Federal return prepared for the same period?").UsuallyYes().OfOneYear().Required();

        Section("Where amounts differ from the federal return");
        DepreciationDiffers = Answer("depreciation-differs", "Another capital cost allowance for Alberta?").Required().Hint("pools of its own from then on");
        OtherDifferences = Answer("others-differ", "Other amounts that differ?").Required().Hint("reserves, resource pools");
        Gifts = Answer("gifts", "Gifts, or gifts carried from earlier years?").Required();
        Losses = Answer("losses", "Losses of other years to use?").Required();

        Section("Filing and payments");
        ThirdParty = Answer("third-party", "Filed by a third party for the company?").UsuallyYes().Required();
        Instalments = Answer("instalments", "Instalments paid to Alberta?").Required();

        Error("no-establishment", establishment.IsFilled() & !establishment, "Without an establishment in Alberta in the period no return is due there.", establishment);
        Warn("no-federal-return", filed.IsFilled() & !filed, "Alberta's return starts from the federal one; prepare it for the same period.", filed);
        Error("ends-in-another-year", End.IsFilled() & (End < new DateOnly(year, 1, 1) | End > new DateOnly(year, 12, 31)), $"This is the return of a period that ends in {year}; {End} does not.", End);
    }
}

/// <summary>Who the company is for Alberta's authority, who can be asked, and who files.</summary>
public sealed class AlbertaCompanyForm : Form
{
    /// <summary>As what a third party files.</summary>
    public static readonly IReadOnlyList<Choice> FilerTypes = [new("accountant", "Accountant"), new("bookkeeper", "Bookkeeper"), new("lawyer", "Lawyer"), new("other", "Other")];

    /// <summary>Declares the form.</summary>
    public AlbertaCompanyForm(Definition definition, AlbertaScopeForm scope)
        : base(definition, "company", "Company", "What Alberta's authority asks for besides the federal return; particulars of client and practice fill these lines.")
    {
        Section("Company", "ACTA 36");
        Identifier("account", "Alberta corporate account number", CanadaIdentifiers.AlbertaAccount).From("notice of Alberta's authority").Required("Enter the Alberta corporate account number; it stands on notices of Alberta's authority.").FollowsClient("alberta-account");
        Identifier("bn", "Business number", CanadaIdentifiers.BusinessNumber).From("registration").Required().FollowsClient("identifier");
        Text("name", "Legal name").Required().FollowsClient("name");
        Text("address", "Head office").Required().FollowsClient("postal-address");

        Section("Contact person", "ACTA 36");
        Text("contact", "Name").Required("Name a contact person; Alberta's authority asks for one.").FollowsClient("contact-name");
        Text("contact-title", "Title").Required().FollowsClient("contact-title");
        Text("contact-phone", "Telephone").Required("Enter the contact person's telephone; Alberta's authority asks for it.").FollowsClient("contact-phone");

        Section("Filed by a third party", "ACTA 36", scope.ThirdParty, name: "preparer");
        Choice("filer-type", "Type of filer", FilerTypes).Required().FollowsPractice("filer-type");
        Text("preparer", "Firm or name").Required().FollowsPractice("agent-name");
        Text("preparer-phone", "Telephone").Required().FollowsPractice("contact-phone");
        Text("preparer-address", "Address").Required().FollowsPractice("agent-address");

        Section("Return");
        this.KindOfReturn();
    }
}

/// <summary>The officer's certification.</summary>
public sealed class AlbertaDeclarationForm : CommonDeclarationForm
{
    /// <summary>Declares the form.</summary>
    public AlbertaDeclarationForm(Definition definition)
        : base(definition, new DeclarationWords(
            "The return is true and complete", "ACTA 36", DeclarationForm.Capacities, CapacityFollowsPractice: false, "agent-number", "Representative's business number", "Representative's name", CanadaIdentifiers.BusinessNumber))
    {
        Section("Certification");
        Text("position", "Position of the person declaring").Required().FollowsClient("officer-position");
    }
}
