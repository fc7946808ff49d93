using System.Numerics;
using Aerarium.Core.Identifiers;
using CsCheck;

namespace Aerarium.Core.Tests;

/// <summary>ISO 11649 references: their check digits by ISO/IEC 7064, MOD 97-10.</summary>
public class CreditorReferenceTests
{
    /// <summary>RF18 5390 0754 7034 is the example printed with ISO 11649 (from memory).</summary>
    [Fact]
    public void The_published_example() => Assert.Equal("RF18539007547034", CreditorReference.For("539007547034"));

    [Theory]
    [InlineData("RF18 5390 0754 7034", true)]
    [InlineData("RF18539007547043", false)]
    [InlineData("RF81539007547034", false)]
    [InlineData("XX18539007547034", false)]
    [InlineData("RF18", false)]
    [InlineData("RF18539007547034ü", false)]
    public void A_reference_is_known_by_its_check_digits(string text, bool valid) => Assert.Equal(valid, CreditorReference.IsValid(text));

    /// <summary>By the definition, in big numbers: letters as 10 to 35, RF and check digits at the end, remainder 1.</summary>
    [Fact]
    public void The_whole_leaves_one_when_divided_by_97() => Gen.String[Gen.Char["ABCDEFGHIJKLMNOPQRSTUVWXYZ0123456789"], 1, 21].Sample(text =>
    {
        var reference = CreditorReference.For(text);
        var digits = string.Concat((reference[4..] + reference[..4]).Select(c => char.IsAsciiDigit(c) ? $"{c}" : $"{c - 'A' + 10}"));
        return BigInteger.Parse(digits, System.Globalization.CultureInfo.InvariantCulture) % 97 == 1 && CreditorReference.IsValid(reference);
    });

    /// <summary>MOD 97-10 finds every single wrong character and every swap of neighbours.</summary>
    [Fact]
    public void A_slip_of_the_pen_is_found() => Gen.Select(Gen.String[Gen.Char["0123456789"], 8, 21], Gen.Int[0, 6]).Sample((text, at) =>
    {
        var reference = CreditorReference.For(text).ToCharArray();
        var (left, right) = (reference[4 + at], reference[5 + at]);
        (reference[4 + at], reference[5 + at]) = (right, left);
        return left == right || !CreditorReference.IsValid(new string(reference));
    });

    [Theory]
    [InlineData("")]
    [InlineData("rf1")]
    [InlineData("A-1")]
    [InlineData("1234567890123456789012")]
    public void Anything_else_is_refused(string text) => Assert.Throws<ArgumentException>(() => CreditorReference.For(text));
}
