using System.Globalization;

namespace Aerarium.Core.Entries;

/// <summary>In which order a country writes the parts of a date in figures.</summary>
public enum DateOrder
{
    /// <summary>31/12/2025.</summary>
    DayFirst,

    /// <summary>12/31/2025.</summary>
    MonthFirst,
}

/// <summary>Reads dates as people type them: in figures by the order of the country, or with the month as a word, with or without the year.</summary>
public static class DateReader
{
    private static readonly string[] Certain = ["yyyy-M-d", "yyyyMMdd", "d.M.yyyy", "d MMM yyyy", "d MMMM yyyy", "MMM d yyyy", "MMMM d yyyy"];
    private static readonly string[] DayFirst = ["d/M/yyyy", "d-M-yyyy"];
    private static readonly string[] MonthFirst = ["M/d/yyyy", "M-d-yyyy"];
    private static readonly string[] WithoutYear = ["d MMM", "d MMMM", "MMM d", "MMMM d"];

    /// <summary>Reads a date; the year from 1900 to 2100.</summary>
    /// <param name="text">What was typed.</param>
    /// <param name="order">The order of the country; a date in figures that only another order can mean is taken by that one.</param>
    /// <param name="year">The year meant where none is typed.</param>
    /// <param name="date">The date.</param>
    public static bool TryRead(string text, DateOrder order, int year, out DateOnly date)
    {
        var plain = string.Join(' ', text.Replace(',', ' ').Split(' ', StringSplitOptions.RemoveEmptyEntries));
        return (Parse(plain, Certain, out date)
            || Parse(plain, order == DateOrder.DayFirst ? DayFirst : MonthFirst, out date)
            || (order == DateOrder.MonthFirst && Parse(plain, DayFirst, out date))
            || Parse(string.Create(CultureInfo.InvariantCulture, $"{plain} {year}"), [.. WithoutYear.Select(f => f + " yyyy")], out date)) && date.Year is >= 1900 and <= 2100;
    }

    /// <summary>How a date may be typed, for messages.</summary>
    public static string InWords(DateOrder order, int year) => string.Create(
        CultureInfo.InvariantCulture, $"{(order == DateOrder.DayFirst ? "day, month and year, such as 18/06/" : "month, day and year, such as 06/18/")}{year}, or 18 Jun {year}");

    private static bool Parse(string text, string[] formats, out DateOnly date) =>
        DateOnly.TryParseExact(text, formats, CultureInfo.InvariantCulture, DateTimeStyles.None, out date);
}
