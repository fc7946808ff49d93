using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Common;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>The declaration that the return is true and complete, and the client's signed authorisation to file it.</summary>
public sealed class DeclarationForm : CommonDeclarationForm
{
    /// <summary>Declares the form.</summary>
    /// <param name="definition">The return.</param>
    public DeclarationForm(Definition definition)
        : base(definition, new DeclarationWords(
            "The return is true and complete",
            "ITA 150",
            CanadaCountry.Capacities,
            CapacityFollowsPractice: true,
            "agent-number",
            "Representative's business number",
            "Representative's name",
            CanadaIdentifiers.BusinessNumber))
    {
        Section("Client's authorisation to file", "ITA 150.1(4); form T183");
        var signed = Answer("authorised", "Form T183 signed by the client?").Required();
        Date("authorised-on", "Signed on").When(signed).RequiredWhen(signed);
        Choice("authorised-by", "Signed", [new("pen", "On paper"), new("electronic", "Electronically")]).When(signed).RequiredWhen(signed);
        Error("not-authorised", signed.IsFilled() & !signed, "The client must sign form T183 before the return is filed; it is kept for six years.", signed);
    }
}
