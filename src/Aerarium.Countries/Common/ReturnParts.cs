using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Core.Identifiers;
using Aerarium.Filing;

namespace Aerarium.Countries.Common;

/// <summary>Who declares and files, in a country's words.</summary>
/// <param name="Made">What is declared.</param>
/// <param name="Law">Section of the law, or null.</param>
/// <param name="Capacities">In which capacity one may declare.</param>
/// <param name="CapacityFollowsPractice">Whether the practice keeps a usual capacity.</param>
/// <param name="AgentKey">Name of the line with the agent's number.</param>
/// <param name="AgentNumber">Label of that line.</param>
/// <param name="AgentName">Label of the line with the agent's name.</param>
/// <param name="AgentRule">Rule of the agent's number.</param>
/// <param name="Accreditation">Whether the agent bears an accreditation number.</param>
public sealed record DeclarationWords(
    string Made, string? Law, IReadOnlyList<Choice> Capacities, bool CapacityFollowsPractice, string AgentKey, string AgentNumber, string AgentName, IdentifierRule AgentRule, bool Accreditation = false);

/// <summary>The declaration that the return is true and complete, and who files it: the same in every country but for the words.</summary>
public abstract class CommonDeclarationForm : Form
{
    /// <inheritdoc />
    public override bool OfOneYear => true;

    /// <summary>Declares the form.</summary>
    protected CommonDeclarationForm(Definition definition, DeclarationWords words)
        : base(definition, "declaration", "Declaration", "Made by a named person before the return is handed over.")
    {
        Section("Declaration", words.Law);
        var made = Answer("true-and-complete", words.Made).Required("Confirm that the return is true and complete.");
        Text("name", "Name of the person declaring").Required().FollowsPractice("declarant-name");
        var capacity = Choice("capacity", "Capacity", words.Capacities).Required();
        if (words.CapacityFollowsPractice)
        {
            capacity.FollowsPractice("declarant-capacity");
        }

        Date("date", "Date").Required();
        Error("not-declared", made.IsFilled() & !made, "The declaration must be made before the return can be filed.", made);

        Section("Filed by");
        Identifier(words.AgentKey, words.AgentNumber, words.AgentRule).Required().FollowsPractice("agent-pin");
        Text("agent-name", words.AgentName).Required().FollowsPractice("agent-name");
        if (words.Accreditation)
        {
            Text("accreditation", "Accreditation number").FollowsPractice("accreditation");
        }

        Text("contact-name", "Person to ask about the return").Required().FollowsPractice("contact-name");
        Text("contact-phone", "That person's telephone").Required().FollowsPractice("contact-phone");
    }
}

/// <summary>Lines that every country's return has, and how they are written in an e-return.</summary>
public static class ReturnParts
{
    /// <summary>Writes what <see cref="CommonDeclarationForm"/> declares.</summary>
    public static void Declaration(this EReturnWriter x) => x.Group("Declaration", () =>
    {
        x.Line("TrueAndComplete", "declaration.true-and-complete");
        x.Line("Name", "declaration.name");
        x.Line("Capacity", "declaration.capacity");
        x.Line("Date", "declaration.date");
    });

    /// <summary>Whether the return is the original or amends one that was accepted; holds when it amends.</summary>
    public static Condition KindOfReturn(this LineScope form)
    {
        var kind = form.Choice("kind", "Kind of return", [new("original", "Original"), new("amended", "Amended")]).Required().FollowsClient("return-kind");
        var amended = kind.Is("amended");
        form.Text("prior-acknowledgement", "Acknowledgement number of the return amended")
            .From("acknowledgement of the earlier return").RequiredWhen(amended).When(amended).FollowsClient("prior-acknowledgement");
        return amended;
    }
}
