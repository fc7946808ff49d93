using Aerarium.Core.Definitions;
using Aerarium.Countries.Common;

namespace Aerarium.Countries.Philippines.Individual;

/// <summary>The declaration under penalties of perjury, and who files.</summary>
/// <param name="definition">The return.</param>
public sealed class DeclarationForm(Definition definition) : CommonDeclarationForm(definition, new DeclarationWords(
    "Made in good faith, true and correct, under the penalties of perjury",
    "NIRC s. 267",
    [new("taxpayer", "Taxpayer"), new("agent", "Authorised representative"), new("accredited", "Accredited tax agent")],
    CapacityFollowsPractice: false,
    "agent-tin",
    "Representative's taxpayer number",
    "Representative's name",
    PhilippinesIdentifiers.Tin,
    Accreditation: true));
