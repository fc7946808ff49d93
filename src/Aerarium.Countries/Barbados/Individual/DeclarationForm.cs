using Aerarium.Core.Definitions;
using Aerarium.Countries.Common;

namespace Aerarium.Countries.Barbados.Individual;

/// <summary>The declaration that the return is true and complete.</summary>
/// <param name="definition">The return.</param>
public sealed class DeclarationForm(Definition definition) : CommonDeclarationForm(definition, new DeclarationWords(
    "The return is true and complete",
    "ITA",
    BarbadosCountry.Capacities,
    CapacityFollowsPractice: true,
    "agent-number",
    "Agent's taxpayer identification number",
    "Agent's name",
    BarbadosIdentifiers.TaxpayerNumber));
