using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Definitions.Confidence;

namespace Aerarium.Core.Tests;

/// <summary>Figures of the law with their history: a year that changes nothing is not named, and a year without a value is told.</summary>
public class FigureTests
{
    private static Figure Fee => Figure.Money("fee", "fee for {year}", "Harbour Act s. 2")
        .From(2017, 100, Certain)
        .For(2020, 80, Unsure, "Halved in part of {year}.", label: "fee of the dry year", source: "Harbour Order {year}")
        .From(2022, 120, Likely)
        .RepealedFrom(2025);

    [Theory]
    [InlineData(2017, 100, "fee for 2017", "Harbour Act s. 2", Certain, null)]
    [InlineData(2019, 100, "fee for 2019", "Harbour Act s. 2", Certain, null)]
    [InlineData(2020, 80, "fee of the dry year", "Harbour Order 2020", Unsure, "Halved in part of 2020.")]
    [InlineData(2021, 100, "fee for 2021", "Harbour Act s. 2", Certain, null)]
    [InlineData(2024, 120, "fee for 2024", "Harbour Act s. 2", Likely, null)]
    public void The_value_of_a_year_is_the_last_that_began(int year, decimal value, string label, string source, Confidence confidence, string? note) =>
        Assert.Equal(new Parameter(label, value, ParameterKind.Amount, source, confidence, note) { Key = "fee" }, Fee.In(year));

    [Theory]
    [InlineData(2016)]
    [InlineData(2025)]
    public void A_year_without_a_value_is_told_with_the_figure(int year)
    {
        Assert.Null(Fee.InOrNone(year));
        Assert.Equal($"The figure 'fee' has no value for {year}.", Assert.Throws<RuleException>(() => Fee.In(year)).Message);
    }

    [Fact]
    public void Rates_are_given_in_per_cent() => Assert.Equal(0.125m, Figure.Percent("rate", "rate", "s. 1").From(2020, 12.5m, Certain).In(2024).Value);

    [Fact]
    public void Two_values_for_one_year_and_years_that_fall_are_refused()
    {
        Assert.Throws<RuleException>(() => Fee.From(2022, 1, Certain));
        Assert.Throws<RuleException>(() => Fee.For(2020, 1, Certain));
        Assert.Throws<RuleException>(() => Fee.From(2021, 1, Certain));
    }

    [Fact]
    public void A_table_holds_until_the_next()
    {
        static RateSchedule Of(decimal rate) => new("schedule", "s. 4", Certain, (null, rate));
        var table = new DatedTable<RateSchedule>("schedule").From(2018, Of(10)).From(2023, Of(12));
        Assert.Equal([0.10m, 0.10m, 0.12m], new[] { 2018, 2022, 2023 }.Select(year => table.In(year).Bands[0].Rate));
        Assert.Contains("none for 2017", Assert.Throws<RuleException>(() => table.In(2017)).Message, StringComparison.Ordinal);
        Assert.Throws<RuleException>(() => table.From(2020, Of(11)));
    }
}
