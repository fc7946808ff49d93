using System.Text.Json.Nodes;
using Aerarium.Cli;

namespace Aerarium.Countries.Tests;

public class CommandLineTests
{
    private static (int Exit, string Output, string Errors) Compute(string input, bool each = false)
    {
        using var output = new StringWriter();
        using var errors = new StringWriter();
        var exit = ComputeCommand.Run("-", each, new StringReader(input), output, errors);
        return (exit, output.ToString(), errors.ToString());
    }

    private static string Case(string entries, string year = "2025") =>
        $$"""{"return":"ke/employment-income","year":{{year}},"today":"2026-03-01","entries":{{entries}}}""";

    [Fact]
    public void A_case_gives_values_findings_and_outcome()
    {
        var (exit, output, errors) = Compute(Case("""{"scope.insurance":true,"employment.employers":[{"months":12,"basic-pay":1440000,"pensionable-pay":"1,440,000","retirement-contributions":49680,"health-insurance":39600,"housing-levy":21600,"tax-deducted":307336}],"tax.policies":[{"kind":"life","premium":24000}]}"""));
        Assert.Equal((0, ""), (exit, errors));
        var result = JsonNode.Parse(output)!;
        Assert.Equal(-3_600m, result["outcome"]!["balance"]!.GetValue<decimal>());
        Assert.Equal(1_329_120m, result["values"]!["deductions.taxable-income"]!.GetValue<decimal>());
        Assert.Equal(1_440_000m, result["values"]!["employment.employers"]![0]!["cash-pay"]!.GetValue<decimal>());
        Assert.Null(result["values"]!["charges.interest"]);
        Assert.Contains(result["findings"]!.AsArray(), f => f!["id"]!.GetValue<string>() == "refund" && f["severity"]!.GetValue<string>() == "note");
    }

    /// <summary>A relief of 30,000 in place of 28,800 is 1,200 less to pay, of the same case.</summary>
    [Fact]
    public void A_case_can_lay_other_figures_over_the_law()
    {
        const string Pay = """{"employment.employers":[{"months":12,"basic-pay":1440000}]}""";
        var (exit, output, errors) = Compute($"[{Case(Pay)},{With("""{"personal-relief":30000}""")},{With("""{"bands-of-tax":[[288000,10],[null,0]]}""")}]");
        Assert.Equal((0, ""), (exit, errors));
        var results = JsonNode.Parse(output)!.AsArray();
        Assert.Equal(Of(0, "balance.balance") - 1_200, Of(1, "balance.balance"));
        Assert.Equal(28_800, Of(2, "tax.tax"));
        Refused("""{"personal-relief":"much"}""", "the case, law, personal-relief: expected a number");
        Refused("""{"bands-of-tax":[[288000]]}""", "range 1: expected an upper edge");
        Refused("""{"relief":1}""", "the case, law: 'relief' is no figure of");
        Refused("[1]", "law: expected an object");

        string With(string law) => Case(Pay)[..^1] + $",\"law\":{law}}}";
        decimal Of(int at, string line) => results[at]!["values"]![line]!.GetValue<decimal>();
        void Refused(string law, string message)
        {
            var (refused, nothing, told) = Compute(With(law));
            Assert.Equal((2, ""), (refused, nothing));
            Assert.Contains(message, told, StringComparison.Ordinal);
        }
    }

    [Fact]
    public void An_array_of_cases_gives_an_array_of_results()
    {
        var cases = string.Join(',', Enumerable.Range(1, 200).Select(i => Case($$"""{"employment.employers":[{"basic-pay":{{i * 10_000}}}]}""", i % 2 == 0 ? "2024" : "2025")));
        var (exit, output, _) = Compute($"[{cases}]");
        Assert.Equal(0, exit);
        var results = JsonNode.Parse(output)!.AsArray();
        Assert.Equal(200, results.Count);
        Assert.Equal(2_000_000m, results[199]!["outcome"]!["income"]!.GetValue<decimal>());
    }

    [Theory]
    [InlineData("""{"tax.tax":5}""", "tax.tax: this line is computed")]
    [InlineData("""{"tax.wages":5}""", "unknown key 'tax.wages'")]
    [InlineData("""{"employment.basic-pay":5}""", "did you mean 'employment.employers\"")]
    [InlineData("""{"employment.employers":[{"wage":5}]}""", "employment.employers, row 1: unknown key 'wage'")]
    [InlineData("""{"employment.employers":[{"basic-pay":5},{"basic-pay":"five"}]}""", "employment.employers, row 2, basic-pay: Basic pay: 'five' is not an amount")]
    [InlineData("""{"employment.employers":[{"basic-pay":-5}]}""", "cannot be negative")]
    [InlineData("""{"employment.employers":[{"months":13}]}""", "must be between 1 and 12")]
    [InlineData("""{"tax.relief":1,"tax.relief":2}""", "the case, entries: key 'tax.relief' is given twice")]
    [InlineData("""{"employment.employers":[{"months":1,"months":2}]}""", "the case, entries, employment.employers, row 1: key 'months' is given twice")]
    [InlineData("""{"employment.employers":[{"name":"\ud800 Ltd"}]}""", "employment.employers, row 1, name: half a character")]
    [InlineData("""{"employment.employers":[{"months":12}],"employment.cars":[{"provided-by":2}]}""", "employment.cars, row 1, provided-by: there is no row 2 of 'employment.employers'; it has 1 row.")]
    [InlineData("""{"employment.cars":[{"provided-by":1}]}""", "there is no row 1 of 'employment.employers'; it has 0 rows.")]
    [InlineData("""{"employment.employers":[{"basic-pay":1.005}]}""", "more than two decimals")]
    [InlineData("""{"employment.employers":[{"basic-pay":1e30}]}""", "larger than any amount")]
    [InlineData("""{"employment.employers":[{"basic-pay":[1]}]}""", "expected one value, not array")]
    [InlineData("""{"employment.employers":{}}""", "expected an array of rows")]
    [InlineData("""{"employment.employers":[5]}""", "expected an object of columns")]
    [InlineData("""{"scope.resident":"perhaps"}""", "answer yes or no")]
    [InlineData("""{"scope.employers":"many"}""", "none, one, several")]
    [InlineData("""{"charges.filed-on":"2026-02-30"}""", "not a date of the calendar")]
    public void A_bad_entry_is_named_on_standard_error_with_exit_code_2(string entries, string message)
    {
        var (exit, output, errors) = Compute(Case(entries));
        Assert.Equal((2, ""), (exit, output));
        Assert.Contains(message, errors);
        Assert.DoesNotContain("   at ", errors);
    }

    [Theory]
    [InlineData("not json", "not JSON")]
    [InlineData("5", "expected an object")]
    [InlineData("""{"return":"ke/company","year":2025}""", "There is no return 'ke/company'")]
    [InlineData("""{"return":"ke/employment-income","year":2019}""", "the years are 2022, 2023, 2024, 2025")]
    [InlineData("""{"return":"ke/employment-income","year":"soon"}""", "'soon' is not a year")]
    [InlineData("""{"return":"ke/employment-income"}""", "year: missing")]
    [InlineData("""{"return":"ke/employment-income","year":2025,"lines":{}}""", "unknown key 'lines'")]
    [InlineData("""{"return":"ke/employment-income","year":2025,"entries":[]}""", "expected an object of line keys")]
    [InlineData("""{"return":"ke/employment-income","year":2025,"today":"1 June"}""", "is not a date such as")]
    public void A_bad_case_is_named_on_standard_error_with_exit_code_2(string input, string message)
    {
        var (exit, output, errors) = Compute(input);
        Assert.Equal((2, ""), (exit, output));
        Assert.Contains(message, errors);
    }

    [Fact]
    public void What_is_wrong_with_one_case_of_many_is_named_and_none_is_computed_unless_asked()
    {
        var cases = $"[{Case("""{"employment.employers":[{"basic-pay":10000}]}""")},{Case("""{"tax.tax":5}""")},{Case("{}")}]";
        var (exit, output, errors) = Compute(cases);
        Assert.Equal((2, "", "case 2, tax.tax: this line is computed and cannot be given.\n"), (exit, output, errors));
        (exit, output, errors) = Compute(cases, each: true);
        Assert.Equal((2, "case 2, tax.tax: this line is computed and cannot be given.\n"), (exit, errors));
        var results = JsonNode.Parse(output)!.AsArray();
        Assert.Equal(10_000m, results[0]!["outcome"]!["income"]!.GetValue<decimal>());
        Assert.Equal("case 2, tax.tax: this line is computed and cannot be given.", results[1]!["error"]!.GetValue<string>());
        Assert.NotNull(results[2]!["outcome"]);
    }

    [Fact]
    public void A_folder_in_place_of_a_file_is_told()
    {
        using var errors = new StringWriter();
        Assert.Equal(2, ComputeCommand.Run(AppContext.BaseDirectory, false, TextReader.Null, TextWriter.Null, errors));
        Assert.Contains("a folder; give a file with a case", errors.ToString());
    }

    [Fact]
    public void A_file_that_is_not_there_is_named()
    {
        using var errors = new StringWriter();
        Assert.Equal(2, ComputeCommand.Run("/nowhere/case.json", false, TextReader.Null, TextWriter.Null, errors));
        Assert.Contains("/nowhere/case.json", errors.ToString());
    }

    [Fact]
    public void Rows_within_a_page_stand_in_its_row_or_say_which_it_is()
    {
        const string before = """{"return":"bb/individual","year":2024,"today":"2025-03-01","entries":{"scope.business":"yes",""";
        const string within = before + """ "business.businesses":[{"turnover":10,"expenses":[{"amount":1}]},{"turnover":20,"expenses":[{"amount":2},{"amount":3}]}]}}""";
        const string apart = before + """ "business.businesses":[{"turnover":10},{"turnover":20}],"business.expenses":[{"of":1,"amount":1},{"of":2,"amount":2},{"of":2,"amount":3}]}}""";
        foreach (var text in new[] { within, apart })
        {
            var (exit, output, _) = Compute(text);
            Assert.Equal(0, exit);
            Assert.Equal([9m, 15m], JsonNode.Parse(output)!["values"]!["business.businesses"]!.AsArray().Select(b => b!["profit"]!.GetValue<decimal>()));
        }

        var (refused, _, errors) = Compute(before + """ "business.businesses":[{"expenses":{"amount":1}}]}}""");
        Assert.Equal(2, refused);
        Assert.Contains("business.businesses, row 1, expenses: expected an array of rows", errors);
    }

    [Fact]
    public void What_scope_keeps_out_is_said()
    {
        var (_, output, _) = Compute(Case("""{"deductions.loans":[{"interest":100000}]}"""));
        Assert.Contains(JsonNode.Parse(output)!["findings"]!.AsArray(), f => f!["message"]!.GetValue<string>().Contains("1 row is kept but does not count"));
    }

    [Theory]
    [InlineData("2024", "employment.employers.housing-levy-december", true)]
    [InlineData("2025", "employment.employers.housing-levy-december", false)]
    [InlineData("2025", "employment.employers.housing-levy", true)]
    public void Lines_lists_every_line_of_the_year(string year, string key, bool there)
    {
        using var output = new StringWriter();
        Assert.Equal(0, LinesCommand.Run("ke/employment-income", year, "", output, TextWriter.Null));
        var lines = JsonNode.Parse(output.ToString())!.AsArray();
        Assert.Equal(there, lines.Any(l => l!["key"]!.GetValue<string>() == key));
        Assert.All(lines, l => Assert.Contains(l!["source"]!.GetValue<string>(), new[] { "entered", "computed" }));
        Assert.Equal(lines.Count, lines.Select(l => l!["key"]!.GetValue<string>()).Distinct().Count());
    }

    [Theory]
    [InlineData("ph/individual-quarterly", "2025", "q4", "q4' is none of them")]
    [InlineData("ph/individual-quarterly", "2025", "", "has the periods q1, q2, q3")]
    [InlineData("ke/employment-income", "2025", "q1", "leave the period out")]
    [InlineData("ke/nothing", "2025", "", "There is no return")]
    [InlineData("ke/employment-income", "2001", "", "not covered for 2001")]
    [InlineData("ke/employment-income", "later", "", "not a year")]
    public void Lines_of_what_is_not_covered_are_refused(string id, string year, string period, string message)
    {
        using var errors = new StringWriter();
        Assert.Equal(2, LinesCommand.Run(id, year, period, TextWriter.Null, errors));
        Assert.Contains(message, errors.ToString());
    }
}
