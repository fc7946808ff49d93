using System.Reflection;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Core.Formulas;

namespace Aerarium.Countries.Tests;

/// <summary>The figures of the law are found in the trees that compute: all that a year's law declares, each once, with what uses it.</summary>
public class LawFigureTests
{
    public static TheoryData<string, int, string> Definitions => [.. Catalogue.Returns.SelectMany(r => r.Years.Select(y => (r.Id, y, r.Periods[0])))];

    [Theory]
    [MemberData(nameof(Definitions))]
    public void Every_figure_has_a_key_of_its_own_a_section_and_a_use(string id, int year, string period)
    {
        var figures = LawFigures.Of(Catalogue.Get(id, year, period));
        Assert.Equal(figures.Count, figures.Select(f => f.Key).Distinct().Count());
        Assert.All(figures, f => Assert.False(string.IsNullOrWhiteSpace(f.Source), $"{f.Key} has no section."));
        Assert.All(figures.Where(f => !f.Key.StartsWith("deadline-", StringComparison.Ordinal) && !f.Key.StartsWith("public-holidays", StringComparison.Ordinal)), f => Assert.True(f.UsedBy.Count + f.Findings.Count > 0, $"Nothing uses {f.Key}."));
    }

    /// <summary>What the law of a year declares and no rule names: figures that decide a day or an age before a rule is written.</summary>
    private static readonly HashSet<string> NamedInNoRule = ["late-automatic"];

    [Theory]
    [InlineData("de/individual", 2022, typeof(Germany.Parameters.IncomeTaxLaw))]
    [InlineData("de/individual", 2025, typeof(Germany.Parameters.IncomeTaxLaw))]
    public void All_that_the_law_of_a_year_declares_is_found(string id, int year, Type law)
    {
        var of = Activator.CreateInstance(law, year)!;
        var declared = law.GetProperties(BindingFlags.Public | BindingFlags.Instance).Where(p => p.PropertyType == typeof(Parameter)).Select(p => (Parameter?)p.GetValue(of)).OfType<Parameter>().Where(p => p.Key is not null).Select(p => p.Key!);
        Assert.Empty(declared.Except(LawFigures.Of(Catalogue.Get(id, year)).Select(f => f.Key)).Except(NamedInNoRule));
    }

    /// <summary>The curve of a schedule is its own tax: the rate of the next unit and the tax over the amount.</summary>
    [Fact]
    public void A_curve_says_what_the_schedule_takes()
    {
        var tariff = new Germany.Parameters.IncomeTaxLaw(2025).Tariff;
        var point = LawFigures.Of(Catalogue.Get("de/individual", 2025)).Single(f => f.Key == "income-tax-tariff").Curve[^1];
        Assert.Equal((45m, decimal.Round(tariff.Apply(point.At) * 100 / point.At, 2)), (point.OfNext, point.OnAverage));
        Assert.Equal(277_825 * 1.25m, point.At, 0);
    }
}
