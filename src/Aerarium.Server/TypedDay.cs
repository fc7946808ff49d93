using Aerarium.Core.Entries;
using Aerarium.Countries;

namespace Aerarium.Server;

/// <summary>Days typed outside returns, by the order of the country they concern; where no year is typed, this year is meant.</summary>
internal static class TypedDay
{
    /// <summary>Reads a day.</summary>
    public static bool TryRead(string? typed, string? country, DateOnly today, out DateOnly day) => DateReader.TryRead(EntryReader.Clean(typed), OrderOf(country), today.Year, out day);

    /// <summary>How a day may be typed, for messages.</summary>
    public static string InWords(string? country, DateOnly today) => $"type {DateReader.InWords(OrderOf(country), today.Year)}";

    private static DateOrder OrderOf(string? country) => country is not null && Catalogue.Countries.TryGetValue(country, out var found) ? found.Dates : DateOrder.DayFirst;
}
