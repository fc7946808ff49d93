using Aerarium.Core.Definitions;
using Aerarium.Core.Engine;

namespace Aerarium.Server.Returns;

/// <summary>A line of a page as a table has it; rows of repeating sections are exported with their section.</summary>
/// <param name="Section">The heading it stands under.</param>
/// <param name="Number">Printed number.</param>
/// <param name="Label">Label.</param>
/// <param name="Value">What stands there, in neutral writing.</param>
/// <param name="Beside">What stands in the parallel column, such as last year's.</param>
internal sealed record PageLine(string Section, string Number, string Label, string? Value, string? Beside)
{
    /// <summary>The lines of a form that apply, blank ones too.</summary>
    public static IEnumerable<PageLine> Of(Evaluation evaluation, Form form)
    {
        var beside = evaluation.Definition.Forms.FirstOrDefault(f => f.Beside?.First == form);
        foreach (var (index, section) in form.Sections.Index().Where(s => s.Item is not RepeatingSection))
        {
            var others = beside?.Sections[index].LinesAsRead.ToList();
            foreach (var (at, line) in section.LinesAsRead.Index().Where(l => evaluation.IsOpen(l.Item)))
            {
                yield return new PageLine(section.Title, line.Number, line.Label, evaluation.Value(line), others is null ? null : evaluation.Value(others[at]));
            }
        }
    }
}
