using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Common;

namespace Aerarium.Countries.Canada.Company;

/// <summary>The officer's certification and the signed authorisation to file electronically.</summary>
public sealed class DeclarationForm : CommonDeclarationForm
{
    /// <summary>In what capacity an officer certifies.</summary>
    internal static readonly IReadOnlyList<Choice> Capacities = [new("director", "Director"), new("officer", "Officer"), new("authorised", "Authorised signatory")];

    /// <summary>Declares the form.</summary>
    public DeclarationForm(Definition definition)
        : base(definition, new DeclarationWords(
            "The return is true and complete", "ITA 150(1)", Capacities, CapacityFollowsPractice: false, "agent-number", "Representative's business number", "Representative's name", CanadaIdentifiers.BusinessNumber))
    {
        Section("Authorisation to file", "ITA 150.1; form T183CORP");
        var signed = Answer("authorised", "Form T183CORP signed by the officer?").Required();
        Date("authorised-on", "Signed on").When(signed).RequiredWhen(signed);
        Error("not-authorised", signed.IsFilled() & !signed, "The officer must sign form T183CORP before the return is filed; it is kept for six years.", signed);
    }
}
