using Aerarium.Core.Definitions;
using Aerarium.Countries.Common;

namespace Aerarium.Countries.Kenya.EmploymentIncome;

/// <summary>The declaration that the return is true and complete.</summary>
/// <param name="definition">The return.</param>
public sealed class DeclarationForm(Definition definition) : CommonDeclarationForm(definition, new DeclarationWords(
    "The return is true and complete",
    null,
    [new("taxpayer", "Taxpayer"), new("agent", "Authorised agent"), new("representative", "Personal representative")],
    CapacityFollowsPractice: true,
    "agent-pin",
    "Agent's identification number",
    "Agent's name",
    KenyaIdentifiers.PayerPin));
