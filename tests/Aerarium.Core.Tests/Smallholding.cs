using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Core.Tests;

/// <summary>A made-up levy with a page for each field, rows within the pages, values of every kind, and a first page fed by the pages that follow.</summary>
public sealed class Smallholding : Definition
{
    public Smallholding(bool leavesDueOpen = false, NumberWriting? writing = null)
        : base("zz/smallholding", 2025)
    {
        WritingNumbers(writing ?? NumberWriting.Point);
        var main = new MainForm(this);
        var fields = new FieldsForm(this, main);
        main.Complete(fields, leavesDueOpen);
        Main = main;
        Fields = fields;
        Seal(new KeyFigure("Levy", main.Levy.Line, ""), new KeyFigure("Due", main.Due.Line, "="));
    }

    /// <summary>A tariff with every kind of zone.</summary>
    public static readonly ZoneTariff Tariff = new(
        "tariff", "Field Act s. 3", Confidence.Certain, TariffZone.Free(1_000), new(20_000, 1_000, 10_000, 900, 1_400, 0), TariffZone.Flat(100_000, 0.42m, 3_070), TariffZone.Flat(null, 0.45m, 6_070));

    /// <summary>A table with two columns.</summary>
    public static readonly RangeTable Fees = new("fees", "Field Act s. 4", Confidence.Certain, ["fee", "extra"], (100, [1, 10]), (5_000, [2, 20]), (null, [3, 30]));

    /// <summary>Slices.</summary>
    public static readonly RateSchedule Slices = new("slices", "Field Act s. 5", Confidence.Certain, (1_000, 10), (5_000, 25), (null, 40));

    public MainForm Main { get; }

    public FieldsForm Fields { get; }

    public override string Title => "Smallholding";

    public override string Country => "Zedland";

    public override string Currency => "ZZD";

    public override IReadOnlyList<Deadline> Deadlines => [];

    public sealed class MainForm : Form
    {
        public readonly AmountLine Levy, Due;
        public readonly DateLine Born, Day;
        public readonly TextLine First, Last;

        public MainForm(Definition d)
            : base(d, "main", "Levy", "")
        {
            Section("Holder");
            First = Text("first", "First name");
            Last = Text("last", "Last name");
            Born = Date("born", "Born on");
            Day = Date("day", "Levy day");
            Measure("hours", "Hours of work", 2).Unit("hours");
            Measure("exchange-rate", "Exchange rate", 6);
            LongText("why", "Explanation");
            Section("Levy");
            Levy = Line("levy", "Levy of all fields");
            Due = Line("due", "Levy due").Final();
        }

        public void Complete(FieldsForm fields, bool leavesDueOpen)
        {
            Section("Worked out");
            Line("full-name", "Full name", Joined(" ", First, Last));
            Line("of-age", "Of age on the levy day", YearsFrom(Born, Day) >= 18);
            Line("next-day", "Next levy day", EndOfMonth(Day.AddMonths(1)));
            Line("standing", "Standing", [new("small", "Small"), new("large", "Large")], If(fields.Fields.RowCount > 1, "large", If(fields.Fields.RowCount > 0, "small", "none")));
            NumberLine("age", "Age on the levy day", YearsFrom(Born, Day));
            NumberLine("months", "Months of age", MonthsFrom(Born, Day));
            NumberLine("days", "Days from birth to the levy day", DaysOf(Born, Day));
            Line("share", "Levy until the levy day", ByDays(Levy, (new DateOnly(2025, 1, 1), Day), (new DateOnly(2025, 1, 1), new DateOnly(2025, 12, 31))), ToCents);
            Line("grown", "Levy grown by three in a hundred for each year", Levy * ToThePower(1.03m, YearsFrom(Born, Day)), ToCents);
            Line("of-largest", "Levy of the largest field", fields.Fields.InRowWithMost(f => f.Size, f => f.Levy));
            Line("by-zones", "Levy by zones", ByZones(Tariff, Levy), DownToUnits);
            Line("by-range", "Fee by range", Step(Fees["fee"], Levy) + Step(Fees["extra"], Levy));
            Line("moved", "Levy with a wider first slice", ProgressiveMovedUp(Slices, Levy, Due));
            Line("decided", "Fee by standing", Decide("fee by standing", 7, (fields.Fields.RowCount > 2, 100), (Levy > 1_000 & Born.IsFilled(), Levy / 2), (Levy > 1_000, 50)), ToCents);
            Line("of-smallest", "Levy of the smallest field", fields.Fields.InRowWithLeast(f => f.Size, f => f.Levy));
            Levy.Is(fields.Fields.Sum(f => f.Levy));
            if (!leavesDueOpen)
            {
                Due.Is(AtLeastZero(Levy - 10), ToCents);
            }
        }
    }

    public sealed class FieldsForm : Form
    {
        public sealed record Field(TextLine Name, AmountLine Size, AmountLine Levy, AmountLine Trees);

        public sealed record Crop(ChoiceLine Kind, AmountLine Worth);

        public readonly RepeatingSection<Field> Fields;

        public readonly RepeatingSection<(ChoiceLine Kind, AmountLine Paid, AmountLine Worth)> Grants;

        public FieldsForm(Definition d, MainForm main)
            : base(d, "fields", "Fields", "")
        {
            IReadOnlyList<Choice> kinds = [new("rye", "Rye"), new("flax", "Flax"), new("tree", "Trees")];
            RepeatingSection<Crop> crops = null!;
            Fields = Pages("fields", "Fields", "field", page =>
            {
                page.Part("The field");
                var name = page.Text("name", "Name").Required();
                page.NamedBy(name);
                var size = page.Count("size", "Size");
                crops = page.RowsWithin("crops", "Crops", "crop", row =>
                {
                    var kind = row.Choice("kind", "Crop", kinds).Required();
                    row.NamedBy(kind);
                    var worth = row.Entry("worth", "Worth");
                    row.Warn("dear-crop", worth > 100, $"Worth of {worth} is much for one crop.", worth);
                    return new Crop(kind, worth);
                });
                page.Part("Levy of the field", "Field Act s. 2");
                var worth = page.Line("worth", "Worth of all crops", PageScope.Sum(crops, c => c.Worth));
                var trees = page.Line("trees", "Worth of trees", PageScope.Sum(crops, c => c.Worth, c => c.Kind.Is("tree")));
                page.NumberLine("number", "Number of crops", PageScope.Count(crops));
                var levy = page.Line("levy", "Levy of the field", size + (0.1m * worth), ToCents);
                page.Error("field-without-size", worth > 0 & size.Equals(0), $"Give the size of the field.", size);
                return new Field(name, size, levy, trees);
            });
            Grants = Repeating("grants", "Grants", "grant", row =>
            {
                var kind = row.Choice("kind", "For", kinds);
                return (kind, row.Entry("paid", "Paid"), row.Line("worth", "Worth of such crops", crops.Sum(c => c.Worth, c => c.Kind.SameAs(kind))));
            });
        }
    }
}
