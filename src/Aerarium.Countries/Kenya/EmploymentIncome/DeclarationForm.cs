using Aerarium.Core.Definitions;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>The declaration that the return is true and complete.</summary>
public sealed class DeclarationForm : Form
{
    /// <inheritdoc />
    public override bool OfOneYear => true;

    /// <summary>Declares the form.</summary>
    public DeclarationForm(Definition definition)
        : base(definition, "declaration", "Declaration", "Made by a named person before the return is handed over.")
    {
        Section("Declaration");
        var made = Answer("true-and-complete", "The return is true and complete").Required();
        Text("name", "Name of the person declaring").Required().FollowsPractice("declarant-name");
        Choice("capacity", "Capacity", [new("taxpayer", "Taxpayer"), new("agent", "Authorised agent"), new("representative", "Personal representative")])
            .Required().FollowsPractice("declarant-capacity");
        Date("date", "Date").Required();
        Error("not-declared", made.IsFilled() & !made, "The declaration must be made before the return can be filed.", made);

        Section("Filed by");
        Identifier("agent-pin", "Agent's identification number", KenyaIdentifiers.PayerPin).Required().FollowsPractice("agent-pin");
        Text("agent-name", "Agent's name").Required().FollowsPractice("agent-name");
        Text("contact-name", "Person to ask about the return").Required().FollowsPractice("contact-name");
        Text("contact-phone", "That person's telephone").Required().FollowsPractice("contact-phone");
    }
}
