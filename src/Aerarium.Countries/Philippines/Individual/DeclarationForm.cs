using Aerarium.Core.Definitions;

namespace Aerarium.Countries.Philippines.Individual;

/// <summary>The declaration under penalties of perjury, and who files.</summary>
public sealed class DeclarationForm : Form
{
    /// <inheritdoc />
    public override bool OfOneYear => true;

    /// <summary>Declares the form.</summary>
    public DeclarationForm(Definition definition)
        : base(definition, "declaration", "Declaration", "Made by a named person before the return is handed over.")
    {
        Section("Declaration", "NIRC s. 267");
        var made = Answer("true-and-complete", "Made in good faith, true and correct, under the penalties of perjury").Required();
        Text("name", "Name of the person declaring").Required().FollowsPractice("declarant-name");
        Choice("capacity", "Capacity", [new("taxpayer", "Taxpayer"), new("agent", "Authorised representative"), new("accredited", "Accredited tax agent")]).Required();
        Date("date", "Date").Required();
        Error("not-declared", made.IsFilled() & !made, "The declaration must be made before the return can be filed.", made);

        Section("Filed by");
        Identifier("agent-tin", "Representative's taxpayer number", PhilippinesIdentifiers.Tin).Required().FollowsPractice("agent-pin");
        Text("agent-name", "Representative's name").Required().FollowsPractice("agent-name");
        Text("accreditation", "Accreditation number").FollowsPractice("accreditation");
        Text("contact-name", "Person to ask about the return").Required().FollowsPractice("contact-name");
        Text("contact-phone", "That person's telephone").Required().FollowsPractice("contact-phone");
    }
}
