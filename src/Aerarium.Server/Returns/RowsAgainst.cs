using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;
using Aerarium.Server.Clients;

namespace Aerarium.Server.Returns;

/// <summary>
/// The rows of a file held against those that are here, known again by a column such as an account's number: rows that are here keep their place and what is entered beside the columns of the file.
/// </summary>
internal sealed class RowsAgainst
{
    /// <summary>Names told of each kind at most; the rest is counted.</summary>
    private const int MostNames = 200;

    private readonly RepeatingSection _section;
    private readonly List<EntryChange> _changes = [];
    private readonly List<string> _gone = [];

    public RowsAgainst(Workspace workspace, RepeatingSection section, Line known, IReadOnlyList<Line> columns, IReadOnlyList<(int Number, List<(Line Line, string Text)> Cells)> rows)
    {
        _section = section;
        var ids = workspace.RowsOf(section.Key).ToList();
        var here = Enumerable.Range(0, ids.Count).Where(row => workspace.Evaluation.Value(known, row) is not null)
            .GroupBy(row => workspace.Evaluation.Value(known, row)!).ToDictionary(g => g.Key, g => g.First());
        var (added, changed, same, met) = (new List<string>(), new List<string>(), 0, new HashSet<int>());
        foreach (var (number, cells) in rows)
        {
            var name = string.Join(' ', new[] { RowFiles.KeyOf(cells, known), section.NamedBy is { } named && named != known ? RowFiles.KeyOf(cells, named) : null }.OfType<string>());
            if (RowFiles.KeyOf(cells, known) is not { } key || !here.TryGetValue(key, out var at))
            {
                added.Add(name);
                _changes.AddRange(RowFiles.NewRow(section, workspace, number, cells));
                continue;
            }

            met.Add(at);
            var differs = columns.Where(c => c != known).Select(column =>
            {
                var typed = cells.FirstOrDefault(c => c.Line == column).Text;
                var value = typed is null ? null : EntryReader.Read(column, typed).Value;
                return (Column: column, Typed: typed, Value: value, Before: workspace.Evaluation.Value(column, at));
            }).Where(c => c.Value != c.Before && !(c.Column.IsNumber && (c.Value ?? "0") == (c.Before ?? "0"))).ToList();
            if (differs.Count == 0)
            {
                same++;
                continue;
            }

            changed.Add($"{name}: {string.Join(", ", differs.Select(d => $"{d.Column.Label} {Shown(d.Column, d.Before)} becomes {Shown(d.Column, d.Value)}"))}");
            _changes.AddRange(differs.Select(d => new EntryChange(ChangeKind.Set, d.Column.Key, ids[at], null, null, d.Typed, long.MaxValue)));
        }

        _gone.AddRange(ids.Where((_, row) => !met.Contains(row)));
        var gone = Enumerable.Range(0, ids.Count).Where(row => !met.Contains(row)).Select(row => $"{workspace.Evaluation.Value(known, row)} {workspace.Evaluation.RowName(section, row)}".Trim());
        Report = new AgainstWhatIsHere(Told(added), Told(changed), Told([.. gone]), same);
    }

    /// <summary>What is added, changed and gone.</summary>
    public AgainstWhatIsHere Report { get; }

    /// <summary>The changes that make the rows those of the file; what is not in it is removed only when that is asked.</summary>
    public IEnumerable<EntryChange> Changes(bool removeGone) =>
        removeGone ? [.. _changes, .. _gone.Select(row => new EntryChange(ChangeKind.RemoveRow, null, row, _section.Key, null, null, long.MaxValue))] : _changes;

    private static string Shown(Line column, string? value) => value is null ? "nothing"
        : column.IsNumber ? column.Write(decimal.Parse(value, System.Globalization.CultureInfo.InvariantCulture))
        : column.Choices?.FirstOrDefault(c => c.Code == value)?.Label ?? value;

    private static IReadOnlyList<string> Told(List<string> names) => names.Count <= MostNames ? names : [.. names.Take(MostNames), $"and {names.Count - MostNames} more"];
}
