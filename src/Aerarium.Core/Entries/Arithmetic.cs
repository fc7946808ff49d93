using System.Globalization;

namespace Aerarium.Core.Entries;

/// <summary>Arithmetic typed into an amount: numbers, <c>+ - * /</c>, parentheses and percent (<c>480000*2.75%</c>), in exact decimals.</summary>
public static class Arithmetic
{
    private const int DeepestNesting = 40;

    /// <summary>Whether the text is more than one number.</summary>
    public static bool IsExpression(string text) => text.AsSpan(1).IndexOfAny("+-*/(%") >= 0 || text[0] == '(';

    /// <summary>Computes a text; on failure the number is null and the problem says what is wrong.</summary>
    /// <param name="text">What was typed, not empty.</param>
    /// <param name="writing">How numbers are written.</param>
    /// <param name="toCents">Whether amounts to the cent are meant, so that three digits after a decimal mark may be thousands.</param>
    public static (decimal? Number, string? Problem) Compute(string text, NumberWriting writing, bool toCents)
    {
        var reader = new Reader(text, writing, toCents);
        try
        {
            var value = reader.Sum(0);
            return reader.AtEnd ? (value, null) : (null, reader.Unexpected());
        }
        catch (FormatException problem)
        {
            return (null, problem.Message);
        }
        catch (DivideByZeroException)
        {
            return (null, $"'{text}' divides by zero.");
        }
        catch (OverflowException)
        {
            return (null, $"'{text}' is larger than any amount this line takes; check for digits too many.");
        }
    }

    private sealed class Reader(string text, NumberWriting writing, bool toCents)
    {
        private int _at;

        public bool AtEnd
        {
            get
            {
                SkipBlanks();
                return _at >= text.Length;
            }
        }

        public string Unexpected() =>
            text.Any(char.IsLetter)
                ? $"'{text}' is not an amount; type digits, with {writing.DecimalInWords} before the cents."
                : $"'{text}' cannot be read as an amount at '{text[_at..]}'; type digits, with {writing.DecimalInWords} before the cents.";

        public decimal Sum(int depth)
        {
            var value = Product(depth);
            while (true)
            {
                SkipBlanks();
                if (Take('+'))
                {
                    value += Product(depth);
                }
                else if (Take('-'))
                {
                    value -= Product(depth);
                }
                else
                {
                    return value;
                }
            }
        }

        private decimal Product(int depth)
        {
            var value = Factor(depth);
            while (true)
            {
                SkipBlanks();
                if (Take('*'))
                {
                    value *= Factor(depth);
                }
                else if (Take('/'))
                {
                    value /= Factor(depth);
                }
                else
                {
                    return value;
                }
            }
        }

        private decimal Factor(int depth)
        {
            if (depth > DeepestNesting)
            {
                throw new FormatException($"'{text}' is nested too deeply.");
            }

            SkipBlanks();
            if (Take('-'))
            {
                return -Factor(depth + 1);
            }

            if (Take('+'))
            {
                return Factor(depth + 1);
            }

            if (!Take('('))
            {
                return Percent(Number());
            }

            var value = Sum(depth + 1);
            SkipBlanks();
            return Take(')') ? Percent(value) : throw new FormatException($"'{text}' lacks a closing parenthesis.");
        }

        /// <summary>A value, a hundredth of it where a percent sign follows.</summary>
        private decimal Percent(decimal value)
        {
            SkipBlanks();
            return Take('%') ? value / 100 : value;
        }

        private decimal Number()
        {
            var start = _at;
            while (_at < text.Length && (char.IsAsciiDigit(text[_at]) || text[_at] is ',' or '.' or '\'' || IsGroupingBlank()))
            {
                _at++;
            }

            var (mark, between) = (writing.Decimal, writing.Group);
            var number = text[start.._at].Replace(' ', between).Replace('\'', between);
            if (number.Length == 0)
            {
                throw new FormatException(_at < text.Length ? Unexpected() : $"'{text}' ends where a number is expected.");
            }

            var parts = number.Split(mark);
            if (parts.Length > 2)
            {
                throw new FormatException($"'{number}' has more than one decimal mark; keep one, {writing.DecimalInWords} before the cents.");
            }

            if (parts.Length == 2 && parts[1].Contains(between))
            {
                throw new FormatException($"'{number}' has a mark between thousands after the decimals; write amounts as {writing.Money(1_234_567.89m)}.");
            }

            var groups = parts[0].Split(between);
            if (groups.Length > 1 && !AreGroups(groups))
            {
                throw new FormatException($"'{number}' can be read in two ways; write amounts as {writing.Money(1_234_567.89m)}.");
            }

            var digits = string.Concat(groups) + (parts.Length == 2 ? "." + parts[1] : "");
            if (digits is "." or "")
            {
                throw new FormatException($"'{text}' has no digits.");
            }

            var read = decimal.Parse(digits, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture);
            if (toCents && parts is [{ Length: >= 1 and <= 3 } whole, { Length: 3 }] && whole.Trim('0').Length > 0 && !whole.Contains(between))
            {
                throw new FormatException(
                    $"'{number}' can be read in two ways: as {writing.Write(read, "#,##0.000")} and as {writing.Write(read * 1_000)}. Type {writing.Write(read * 1_000, "0")}, or the amount with two decimals.");
            }

            return read;
        }

        /// <summary>The lowest group has three digits, those above it three or as many as the country writes, the highest at most so many.</summary>
        private bool AreGroups(string[] groups) =>
            Are(groups, 3) || (writing.HigherGroups != 3 && Are(groups, writing.HigherGroups));

        private static bool Are(string[] groups, int higher) =>
            groups[^1].Length == 3 && groups[0].Length >= 1 && groups[0].Length <= higher && groups[1..^1].All(g => g.Length == higher);

        private bool IsGroupingBlank() =>
            text[_at] == ' ' && _at > 0 && char.IsAsciiDigit(text[_at - 1]) && _at + 1 < text.Length && char.IsAsciiDigit(text[_at + 1]);

        private void SkipBlanks()
        {
            while (_at < text.Length && text[_at] == ' ')
            {
                _at++;
            }
        }

        private bool Take(char sign)
        {
            if (_at < text.Length && text[_at] == sign)
            {
                _at++;
                return true;
            }

            return false;
        }
    }
}
