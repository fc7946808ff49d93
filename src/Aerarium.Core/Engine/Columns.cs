using Aerarium.Core.Definitions;
using Aerarium.Core.Entries;

namespace Aerarium.Core.Engine;

/// <summary>
/// Parallel columns taken apart. A form beside another holds the parallel column's entries under keys of its own; a line of any other
/// form whose name begins with the column's, such as spouse-business, is that column's answer to the line without it.
/// </summary>
internal static class Columns
{
    /// <summary>Whether anything is entered in a parallel column.</summary>
    public static bool AnyParallel(EntrySet entries, Definition definition) =>
        definition.Forms.Where(f => f.Beside is not null).Any(form =>
            entries.Values.Keys.Any(k => IsOf(k, form)) || entries.Rows.Any(r => IsOf(r.Key, form) && r.Value.Count > 0));

    /// <summary>
    /// The entries of the parallel column as those of a return of its own. Answers of Scope that only the first column has are no;
    /// what belongs to both is left out.
    /// </summary>
    public static EntrySet Alone(EntrySet entries, Definition definition)
    {
        var alone = new EntrySet();
        foreach (var form in definition.Forms.Where(f => f.Beside is not null))
        {
            var first = form.Beside!.First.Key;
            foreach (var (key, value) in entries.Values.Where(v => IsOf(v.Key, form)))
            {
                alone.Values[first + key[form.Key.Length..]] = value;
            }

            foreach (var (key, rows) in entries.Rows.Where(r => IsOf(r.Key, form)))
            {
                alone.Rows[first + key[form.Key.Length..]] = rows;
            }
        }

        var column = definition.Forms.First(f => f.Beside is not null).Beside!.Column.ToLowerInvariant();
        var (scope, prefix) = (definition.Forms[0], $"{column}-");
        foreach (var line in definition.Lines.Where(l => l.Table is null && l.Form.Beside is null && !l.IsComputed && !l.Name.StartsWith(prefix, StringComparison.Ordinal)))
        {
            var parallel = $"{line.Form.Key}.{prefix}{line.Name}";
            var value = definition.FindLine(parallel) is not null ? entries.Values.GetValueOrDefault(parallel)
                : line.OfOneYear ? entries.Values.GetValueOrDefault(line.Key)
                : line.Form == scope && line.Kind == LineKind.Answer ? "no" : null;
            if (value is not null)
            {
                alone.Values[line.Key] = value;
            }
        }

        return alone;
    }

    private static bool IsOf(string key, Form form) => key.StartsWith(form.Key + ".", StringComparison.Ordinal);
}
