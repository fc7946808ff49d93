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
    [InlineData("480000*2.75%", "13200")]
    [InlineData("(100+100)*5 %", "10")]
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
    [InlineData("2025-03-01", "reads as a date")]
    [InlineData("01/03/2025", "reads as a date")]
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
    [InlineData("18 jun", "2025-06-18")]
    [InlineData("June 18, 2025", "2025-06-18")]
    public void Dates_are_read_day_first(string typed, string value) => Assert.Equal(value, EntryReader.Read(Bought, typed).Value);

    [Theory]
    [InlineData("30/02/2025")]
    [InlineData("29 Feb 2025")]
    [InlineData("12/31/2025")]
    [InlineData("31 Zun")]
    [InlineData("yesterday")]
    [InlineData("1/1/0001")]
    public void Impossible_dates_are_refused(string typed) => Assert.NotNull(EntryReader.Read(Bought, typed).Problem);

    [Theory]
    [InlineData("06/07/2026", "2026-06-07")]
    [InlineData("6-7-2026", "2026-06-07")]
    [InlineData("07.06.2026", "2026-06-07")]
    [InlineData("18/06/2026", "2026-06-18")]
    [InlineData("jun 18", "2026-06-18")]
    [InlineData("13/13/2026", null)]
    public void Where_the_month_stands_first_figures_are_read_so_unless_only_the_other_order_can_be_meant(string typed, string? day) =>
        Assert.Equal(day, DateReader.TryRead(typed, DateOrder.MonthFirst, 2026, out var date) ? date.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture) : null);

    private static readonly CodeList Baskets = new(
        "goods",
        [
            new("G010", "G010 Wicker baskets"), new("G011", "G011 Wicker chairs"), new("G020", "G020 Tin boxes"), new("G030", "G030 Glass jars", From: 2025), new("G031", "G031 Glass bottles", To: 2023),
            new("G040", "G040 Linen cloths"), new("G050", "G050 Paper plates"), new("G060", "G060 Wooden spoons"), new("G070", "G070 Copper kettles"), new("G080", "G080 Straw hats"),
        ])
    {
        OfOthers = new Dictionary<string, string> { ["C"] = "codes that begin with C are of companies." },
    };

    private sealed class GoodsReturn : Definition
    {
        public GoodsReturn(int year)
            : base("xx/goods", year)
        {
            var form = new GoodsForm(this);
            Seal(new KeyFigure("Kinds", form.Kinds.Line, ""));
        }

        public override string Title => "Goods";

        public override string Country => "Nowhere";

        public override string Currency => "XXX";

        public override IReadOnlyList<Deadline> Deadlines => [];

        private sealed class GoodsForm : Form
        {
            public readonly AmountLine Kinds;

            public GoodsForm(Definition definition)
                : base(definition, "goods", "Goods", "What there is.")
            {
                Section("Goods");
                var kind = Choice("kind", "Kind", Baskets, [new("other", "Another kind")]);
                Kinds = NumberLine("kinds", "Kinds", Law.If(kind.IsFilled(), 1, 0));
            }
        }
    }

    /// <summary>A code is found by its number, part of it, or any words that only one code has; otherwise three by name.</summary>
    [Theory]
    [InlineData("g020", "G020")]
    [InlineData("20", "G020")]
    [InlineData("tin", "G020")]
    [InlineData("wick chairs", "G011")]
    [InlineData("another", "other")]
    [InlineData("jars", "G030")]
    public void A_code_is_found_by_any_word_or_part_of_its_number(string typed, string code) => Assert.Equal(code, EntryReader.Read(new GoodsReturn(2025).LineOf("goods.kind"), typed).Value);

    [Theory]
    [InlineData("wicker", "fits 2 codes, G010 Wicker baskets, G011 Wicker chairs; type more of one")]
    [InlineData("G021", "The nearest: G011 Wicker chairs, G020 Tin boxes, G031 Glass bottles")]
    [InlineData("tim", "The nearest: G020 Tin boxes")]
    [InlineData("C010", "codes that begin with C are of companies. The nearest: G010 Wicker baskets")]
    [InlineData("jars", "is not one of its codes")]
    public void What_is_no_code_is_answered_with_the_three_nearest_by_name(string typed, string words) =>
        Assert.Contains(words, EntryReader.Read(new GoodsReturn(2023).LineOf("goods.kind"), typed).Problem);

    [Fact]
    public void A_list_without_a_code_for_the_year_is_an_error_that_names_it() =>
        Assert.Contains("'old goods' has no code for 2025", Assert.Throws<RuleException>(() => new CodeList("old goods", [new("A", "A", To: 2020)]).For(2025)).Message);

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
        Assert.Equal(day, DateReader.TryRead(typed, DateOrder.DayFirst, 2026, out var date) ? date.ToString("yyyy-MM-dd", System.Globalization.CultureInfo.InvariantCulture) : null);

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
