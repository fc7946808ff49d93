using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Core.Identifiers;
using CsCheck;

namespace Aerarium.Core.Tests;

public class EntryReaderTests
{
    private static readonly PicnicLevy Levy = new();
    private static readonly Line Money = Levy.LineOf("baskets.earned");
    private static readonly Line Days = Levy.LineOf("baskets.days");
    private static readonly Line Kind = Levy.LineOf("baskets.hampers.kind");
    private static readonly Line Bought = Levy.LineOf("baskets.hampers.bought");

    [Theory]
    [InlineData("1234.5", "1234.5")]
    [InlineData(" 1,234,567.89 ", "1234567.89")]
    [InlineData("1 234 567", "1234567")]
    [InlineData("1\u00A0234", "1234")]
    [InlineData("1'234", "1234")]
    [InlineData("0012", "12")]
    [InlineData("12*4500+300", "54300")]
    [InlineData("(1,000 + 500) / 3", "500")]
    [InlineData("100/3", "33.33")]
    [InlineData("", null)]
    [InlineData("   ", null)]
    public void Amounts_are_read_as_people_type_them(string typed, string? value)
    {
        var reading = EntryReader.Read(Money, typed);
        Assert.Null(reading.Problem);
        Assert.Equal(value, reading.Value);
    }

    [Theory]
    [InlineData("1.234.56", "more than one decimal mark")]
    [InlineData("1,23", "two ways")]
    [InlineData("1,2345", "two ways")]
    [InlineData("12.345", "two ways: as 12.345 and as 12,345. Type 12345, or the amount with two decimals")]
    [InlineData("1.200", "two ways: as 1.200 and as 1,200")]
    [InlineData("1.200+5", "two ways: as 1.200 and as 1,200")]
    [InlineData("12,34,567", "two ways")]
    [InlineData("12.3456", "more than two decimals")]
    [InlineData("0.123", "more than two decimals")]
    [InlineData("1234.567", "more than two decimals")]
    [InlineData("12,345.67,8", "after the decimals")]
    [InlineData("twelve", "not an amount")]
    [InlineData("12x", "not an amount")]
    [InlineData("-5", "cannot be negative")]
    [InlineData("5 -", "number is expected")]
    [InlineData("(5", "closing parenthesis")]
    [InlineData("5/0", "divides by zero")]
    [InlineData("9999999999999", "larger than any amount")]
    [InlineData("99999999999999999999999999999999999999", "larger than any amount")]
    [InlineData("1e9", "not an amount")]
    public void What_cannot_be_read_for_certain_is_refused_with_a_reason(string typed, string reason)
    {
        var reading = EntryReader.Read(Money, typed);
        Assert.Null(reading.Value);
        Assert.Contains(reason, reading.Problem);
        Assert.StartsWith("Earned", reading.Problem);
    }

    [Theory]
    [InlineData(",", "1.234.567,89", "1234567.89")]
    [InlineData(",", "1.200", "1200")]
    [InlineData(",", "1 200,5", "1200.5")]
    [InlineData(",", "12*4.500,50", "54006")]
    [InlineData(",", "1,200", null)]
    [InlineData(",", "1,234.56", null)]
    [InlineData(",", "12.34", null)]
    [InlineData("lakh", "12,34,567.89", "1234567.89")]
    [InlineData("lakh", "1,234,567.89", "1234567.89")]
    [InlineData("lakh", "1,23,4567", null)]
    [InlineData("lakh", "1.200", null)]
    public void Numbers_are_read_as_the_country_writes_them(string country, string typed, string? value)
    {
        var line = new Smallholding(writing: country == "," ? NumberWriting.Comma : NumberWriting.Lakhs).LineOf("fields.crops.worth");
        var reading = EntryReader.Read(line, typed);
        Assert.Equal(value, reading.Value);
        Assert.Equal(value is null, reading.Problem is not null);
    }

    [Fact]
    public void Numbers_are_written_as_the_country_writes_them()
    {
        Assert.Equal(["1,234,567.89", "1.234.567,89", "12,34,567.89"], new[] { NumberWriting.Point, NumberWriting.Comma, NumberWriting.Lakhs }.Select(w => w.Money(1_234_567.89m)));
        var definition = new Smallholding(writing: NumberWriting.Comma);
        var entries = new EntrySet { Rows = new() { ["fields.crops"] = [new EntryRow("1") { Values = new() { ["worth"] = "1234.5" } }] } };
        Assert.Contains(definition.Evaluate(entries, new DateOnly(2026, 6, 18)).Findings, f => f.Message.Contains("Worth of 1.234,50 is much"));
        Assert.Equal("1234.5", EntryReader.Read(definition.LineOf("fields.crops.worth"), "1234.5", canonical: true).Value);
        Assert.Equal("1234.5", EntryReader.Read(definition.LineOf("fields.crops.worth"), "1.234,5", canonical: true).Value);
        Assert.Contains("as 1,200 and as 1.200", EntryReader.Read(definition.LineOf("fields.crops.worth"), "1,200").Problem);
    }

    [Fact]
    public void Arithmetic_is_kept_with_the_entry()
    {
        Assert.Equal("12*4500", EntryReader.Read(Money, "12*4500").Expression);
        Assert.Null(EntryReader.Read(Money, "54,000").Expression);
    }

    [Theory]
    [InlineData("367", "between 0 and 366")]
    [InlineData("-1", "between 0 and 366")]
    [InlineData("1.5", "whole number")]
    public void Numbers_keep_to_their_limits(string typed, string reason) => Assert.Contains(reason, EntryReader.Read(Days, typed).Problem);

    [Theory]
    [InlineData("31/12/2025", "2025-12-31")]
    [InlineData("2025-02-28", "2025-02-28")]
    [InlineData("29 Feb 2024", "2024-02-29")]
    public void Dates_are_read_day_first(string typed, string value) => Assert.Equal(value, EntryReader.Read(Bought, typed).Value);

    [Theory]
    [InlineData("30/02/2025")]
    [InlineData("29 Feb 2025")]
    [InlineData("12/31/2025")]
    [InlineData("yesterday")]
    [InlineData("1/1/0001")]
    public void Impossible_dates_are_refused(string typed) => Assert.NotNull(EntryReader.Read(Bought, typed).Problem);

    [Fact]
    public void A_wrong_code_lists_the_codes() => Assert.Contains("wicker, tin", EntryReader.Read(Kind, "plastic").Problem);

    [Fact]
    public void Identifiers_lose_what_copying_adds() => Assert.Equal("A001234567B", IdentifierRule.Normalise(" a001-234 567b\u200B "));

    [Fact]
    public void Every_amount_reads_back_as_written() => Gen.Decimal[0, 999_999_999].Sample(value =>
    {
        var amount = decimal.Round(value, 2);
        return EntryReader.Read(Money, amount.ToString("#,##0.00", System.Globalization.CultureInfo.InvariantCulture)).Value == Figures.Canonical(amount);
    });

    [Theory]
    [InlineData("18/6/2026", "2026-06-18")]
    [InlineData("2026-6-18", "2026-06-18")]
    [InlineData("18 June 2026", "2026-06-18")]
    [InlineData("20260618", "2026-06-18")]
    [InlineData("31/02/2026", null)]
    [InlineData("6/18/2026", null)]
    [InlineData("18/6/1899", null)]
    [InlineData("", null)]
    public void A_day_is_read_in_the_usual_ways_day_before_month(string typed, string? day) =>
        Assert.Equal(day, EntryReader.TryDate(typed, out var date) ? date.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture) : null);

    [Theory]
    [InlineData("12,500.50", "12500.50")]
    [InlineData("500+37.50", "537.50")]
    [InlineData("-4", "-4")]
    [InlineData("1.005", null)]
    [InlineData("9999999999999", null)]
    [InlineData("ten", null)]
    [InlineData("", null)]
    public void An_amount_that_stands_on_no_line_is_read_to_the_cent(string typed, string? amount) =>
        Assert.Equal(amount is null ? (decimal?)null : decimal.Parse(amount, System.Globalization.CultureInfo.InvariantCulture), EntryReader.TryAmount(typed, out var read) ? read : null);
}
