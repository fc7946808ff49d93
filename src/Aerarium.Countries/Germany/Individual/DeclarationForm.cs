using Aerarium.Core.Definitions;
using Aerarium.Countries.Common;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>The declaration that the return is true and complete.</summary>
/// <param name="definition">The return.</param>
public sealed class DeclarationForm(Definition definition) : CommonDeclarationForm(definition, new DeclarationWords(
    "The return is true and complete, to the best of knowledge and belief",
    "AO s. 150(2), 87d",
    GermanyCountry.Capacities,
    CapacityFollowsPractice: true,
    "agent-number",
    "Adviser's number",
    "Adviser's name",
    GermanyIdentifiers.Adviser));
