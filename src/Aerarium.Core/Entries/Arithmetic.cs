using System.Globalization;

namespace Aerarium.Core.Entries;

/// <summary>Arithmetic typed into an amount: numbers, <c>+ - * /</c> and parentheses, in exact decimals.</summary>
public static class Arithmetic
{
    private const int DeepestNesting = 40;

    /// <summary>Whether the text is more than one number.</summary>
    public static bool IsExpression(string text) => text.AsSpan(1).IndexOfAny("+-*/(") >= 0 || text[0] == '(';

    /// <summary>Computes a text; on failure the number is null and the problem says what is wrong.</summary>
    public static (decimal? Number, string? Problem) Compute(string text)
    {
        var reader = new Reader(text);
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

    private sealed class Reader(string text)
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
                ? $"'{text}' is not an amount; type digits, with a point before the cents."
                : $"'{text}' cannot be read as an amount at '{text[_at..]}'; type digits, with a point before the cents.";

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
                return Number();
            }

            var value = Sum(depth + 1);
            SkipBlanks();
            return Take(')') ? value : throw new FormatException($"'{text}' lacks a closing parenthesis.");
        }

        private decimal Number()
        {
            var start = _at;
            while (_at < text.Length && (char.IsAsciiDigit(text[_at]) || text[_at] is ',' or '.' or '\'' || IsGroupingBlank()))
            {
                _at++;
            }

            var number = text[start.._at].Replace(' ', ',').Replace('\'', ',');
            if (number.Length == 0)
            {
                throw new FormatException(_at < text.Length ? Unexpected() : $"'{text}' ends where a number is expected.");
            }

            var parts = number.Split('.');
            if (parts.Length > 2)
            {
                throw new FormatException($"'{number}' has more than one decimal point; keep one, before the cents.");
            }

            if (parts.Length == 2 && parts[1].Contains(','))
            {
                throw new FormatException($"'{number}' has a comma after the decimal point; use the point for cents and commas for thousands.");
            }

            var groups = parts[0].Split(',');
            if (groups.Length > 1 && (groups[0].Length is 0 or > 3 || groups.Skip(1).Any(g => g.Length != 3)))
            {
                throw new FormatException($"'{number}' can be read in two ways; use commas only between thousands and a point before the cents.");
            }

            var digits = string.Concat(groups) + (parts.Length == 2 ? "." + parts[1] : "");
            if (digits is "." or "")
            {
                throw new FormatException($"'{text}' has no digits.");
            }

            return decimal.Parse(digits, NumberStyles.AllowDecimalPoint, CultureInfo.InvariantCulture);
        }

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
