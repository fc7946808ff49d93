using System.Globalization;
using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;
using Aerarium.Filing;

namespace Aerarium.Countries.Philippines.WithholdingCredits;

/// <summary>
/// Writes the list of tax withheld as the authority's layout of the year asks for: a record that names the list, one for each
/// certificate, and one with the totals.
/// </summary>
public sealed class WithholdingCreditsFile : IEReturnMapping
{
    private static readonly string[] Columns = ["record", "sequence", "period", "kind", "tin", "name", "code", "income", "rate", "tax", "declared"];

    /// <inheritdoc />
    public string SchemaPath(int year) => $"ph/withholding-credits/{year}{PublishedSchema.TableEnding}";

    /// <inheritdoc />
    public Channel Channel => Channel.Mail;

    /// <inheritdoc />
    public EReturnFormat Format => EReturnFormat.DelimitedText;

    /// <inheritdoc />
    public IReadOnlyDictionary<string, string> Covering(Evaluation evaluation) => new Dictionary<string, string>
    {
        ["tin"] = evaluation.Value(evaluation.Definition.LineOf("payee.tin")) ?? "",
        ["payee"] = evaluation.Value(evaluation.Definition.LineOf("payee.name")) ?? "",
        ["period"] = PeriodOf(evaluation.Definition),
        ["certificates"] = evaluation.Amount("list.certificates").ToString(CultureInfo.InvariantCulture),
    };

    private static string PeriodOf(Definition definition) => $"{definition.Year}-{definition.Period.ToUpperInvariant()}";

    /// <inheritdoc />
    public EReturn Write(Evaluation evaluation)
    {
        var definition = evaluation.Definition;
        var period = PeriodOf(definition);
        var count = evaluation.RowsOf(definition.FindTable("list.rows")!).Count;
        var file = new DelimitedTextWriter(evaluation, Columns);

        Begin("list");
        file.Line("kind", "payee.kind");
        file.Line("tin", "payee.tin");
        file.Line("name", "payee.name");
        file.Line("declared", "declaration.date");
        for (var row = 0; row < count; row++)
        {
            Begin("certificate", row + 1);
            file.Line("tin", "list.rows.payor-tin", row);
            file.Line("name", "list.rows.payor", row);
            file.Line("code", evaluation.Value(definition.LineOf("list.rows.another-code"), row) is null ? "list.rows.code" : "list.rows.another-code", row);
            file.Line("income", "list.rows.payment", row);
            file.Line("rate", "list.rows.rate", row);
            file.Line("tax", "list.rows.withheld", row);
        }

        Begin("totals", count);
        file.Line("income", "list.payments");
        file.Line("tax", "list.withheld");
        return file.Finish();

        void Begin(string record, int? sequence = null)
        {
            file.Record();
            file.Fixed("record", record);
            file.Fixed("period", period);
            if (sequence is { } number)
            {
                file.Fixed("sequence", number.ToString(CultureInfo.InvariantCulture));
            }
        }
    }
}
