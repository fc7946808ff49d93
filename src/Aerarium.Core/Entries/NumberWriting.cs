using System.Globalization;

namespace Aerarium.Core.Entries;

/// <summary>How numbers are written in a country: what stands before the decimals, what between groups of digits, and how long the groups are.</summary>
/// <param name="Decimal">Mark before the decimals.</param>
/// <param name="Group">Mark between groups.</param>
/// <param name="HigherGroups">Digits of every group but the lowest, which has three: three, or two for lakhs and crores.</param>
public sealed record NumberWriting(char Decimal, char Group, int HigherGroups = 3)
{
    /// <summary>1,234,567.89.</summary>
    public static readonly NumberWriting Point = new('.', ',');

    /// <summary>1.234.567,89.</summary>
    public static readonly NumberWriting Comma = new(',', '.');

    /// <summary>12,34,567.89.</summary>
    public static readonly NumberWriting Lakhs = new('.', ',', 2);

    private readonly NumberFormatInfo _format = new()
    {
        NumberDecimalSeparator = $"{Decimal}",
        NumberGroupSeparator = $"{Group}",
        NumberGroupSizes = HigherGroups == 3 ? [3] : [3, HigherGroups],
    };

    /// <summary>A number as it is written: grouped, with a fixed or greatest number of decimals by the format.</summary>
    public string Write(decimal value, string format = "#,##0.##########") => value.ToString(format, _format);

    /// <summary>As money: whole amounts without decimals, others with two.</summary>
    public string Money(decimal value) => Write(value, value == decimal.Truncate(value) ? "#,##0" : "#,##0.00");

    /// <summary>What an amount may look like, for messages.</summary>
    public string DecimalInWords => Decimal == ',' ? "a comma" : "a point";
}
