using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Philippines.Individual;
using Aerarium.Countries.Philippines.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Philippines.WithholdingCredits;

/// <summary>The certificates, one row each: the code fixes the rate, and the tax it implies is held against the certificate's.</summary>
public sealed class CertificatesForm : Form
{
    /// <summary>A code that is not on the list; its rate is typed.</summary>
    private const string AnotherCode = "other";

    private sealed record Certificate(ChoiceLine Code, AmountLine Payment, AmountLine Implied, AmountLine Withheld, Condition Valid);

    /// <summary>Number of certificates, income payments, tax implied by the codes, tax withheld, and the credit in whole pesos.</summary>
    public readonly AmountLine Certificates, Payments, Implied, Withheld, Credit;

    /// <summary>Declares the form.</summary>
    public CertificatesForm(Definition definition, PayeeForm payee, IReadOnlyList<WithholdingCode> codes)
        : base(definition, "list", "Certificates", "One row for each payer's certificate of tax withheld in the quarter.")
    {
        var rates = codes.ToDictionary(c => c.Code, c => c.Rate);
        var smaller = codes.Where(c => c.LargerPayee is not null).ToList();
        var certificates = Repeating("rows", "Certificates of tax withheld", "certificate", row =>
        {
            var payor = row.Identifier("payor-tin", "Payer's number", PhilippinesIdentifiers.Tin).From("certificate, payer").Required();
            row.NamedBy(row.Text("payor", "Payer").From("certificate, payer").Required());
            var code = row.Choice("code", "Code", WithholdingCodes.List, [new(AnotherCode, "Another code")]).From("certificate, code").Required();
            var another = row.Text("another-code", "Other code").When(code.Is(AnotherCode)).RequiredWhen(code.Is(AnotherCode));
            var typedRate = row.Entry("typed-rate", "Its rate").Unit("%").Between(0, 35).When(code.Is(AnotherCode)).RequiredWhen(code.Is(AnotherCode));
            var first = row.Entry("month-1", "1st month").From("certificate, amount of income payments");
            var second = row.Entry("month-2", "2nd month").From("certificate, amount of income payments");
            var third = row.Entry("month-3", "3rd month").From("certificate, amount of income payments");
            var total = row.Entry("total", "Total").From("certificate, amount of income payments");
            var withheld = row.Entry("withheld", "Tax withheld").From("certificate, tax withheld").Required();
            var received = row.Answer("received", "At hand?").Hint("the certificate itself");
            var monthly = first.IsFilled() | second.IsFilled() | third.IsFilled();
            var payment = row.Line("payment", "Income payment", If(monthly, first + second + third, total));
            var rate = row.NumberLine("rate", "Rate", If(code.Is(AnotherCode), typedRate, 100 * code.In(rates))).Unit("%").Law("RR 2-98 s. 2.57.2");
            var implied = row.Line("implied", "Tax by the code", payment * rate / 100, ToCents).Law("RR 2-98 s. 2.57.2");
            withheld.ProposedBy(implied);
            var difference = row.Line("difference", "Difference", withheld - implied);

            var ownNumber = payor.BeginsLike(payee.Tin, TaxpayerForm.OwnDigits);
            var amountWrong = ((monthly | total.IsFilled()) & payment <= 0) | withheld < 0;
            var noAmount = !monthly & total.IsBlank();
            var monthsDiffer = monthly & total.IsFilled() & total.DiffersFrom(first + second + third);
            var notCreditable = another.BeginsWith("WB", "WV", "WC", "WF");
            var exceeds = withheld > payment & payment > 0;
            var complete = payor.IsFilled() & payor.SatisfiesItsRule() & code.IsFilled() & withheld.IsFilled() & (!code.Is(AnotherCode) | typedRate.IsFilled());
            var valid = complete & !(ownNumber | amountWrong | noAmount | monthsDiffer | notCreditable | exceeds);

            row.Error("payor-is-payee", ownNumber, "The payer cannot be the payee; copy the payer's number.", payor);
            row.Error("amount-not-valid", amountWrong, "The income payment must be more than zero, and the tax not below zero.", payment);
            row.Error("no-amount", noAmount, "Enter the months, or their total.", total);
            row.Error("months-differ-from-total", monthsDiffer, $"The months add up to {first + second + third}, the total says {total}.", total);
            row.Error("not-creditable", notCreditable, "Percentage-tax, value-added-tax, final and company codes are no credit of an individual's income tax.", another);
            row.Error("withheld-exceeds-payment", exceeds, "The tax is more than the income; check the columns.", withheld);
            row.Warn("rate-mismatch", Size(difference) > 1 & code.IsFilled() & withheld.IsFilled() & withheld > 0,
                $"By the code, {implied} was to be withheld; the certificate says {withheld}. Check the code and the amounts.", code);
            row.Warn("nothing-withheld", withheld.IsFilled() & withheld.Equals(0) & payment > 0, "Nothing was withheld on this row; it supports no credit.", withheld);
            row.Warn("perhaps-twice", row.RepeatsEarlier(payor, code, payment, withheld), "The same payer, code and amounts also stand in an earlier row; remove one if it is the same certificate.", payor);
            row.Warn("certificate-missing", received.IsFilled() & !received, "The certificate is not at hand; keep it to claim the credit.", received);
            row.Warn("payor-is-spouse", payor.BeginsLike(payee.SpouseTin, TaxpayerForm.OwnDigits), "The payer is the spouse; check that this is right.", payor);
            row.Warn("unknown-code", code.Is(AnotherCode), "This code is not on our list; check that it is a creditable income tax, and its rate.", code);
            row.Warn("code-of-smaller-payee", payee.VatRegistered & smaller.Select(c => (Condition)code.Is(c.Code)).Aggregate((one, next) => one | next),
                "The payee is registered for value-added tax; the code is for payees below the ceiling.", code);
            return new Certificate(code, payment, implied, withheld, valid);
        }, "RR 2-98 s. 2.58; RR 2-2006").AsGrid();

        Section("Totals", "RR 2-98 s. 2.58.3");
        Certificates = NumberLine("certificates", "Certificates", certificates.RowCount);
        Payments = Line("payments", "Income payments", certificates.Sum(c => c.Payment, c => c.Valid)).Subtotal();
        Implied = Line("implied", "Tax by the codes", certificates.Sum(c => c.Implied, c => c.Valid));
        Withheld = Line("withheld", "Tax withheld", certificates.Sum(c => c.Withheld, c => c.Valid)).Subtotal();
        var leftOut = Line("left-out", "Tax withheld in rows with errors, not counted", certificates.Sum(c => c.Withheld, c => !c.Valid));
        Credit = Line("credit", "Credit, in whole pesos", Withheld, ToUnits).Final();
        Warn("rows-left-out", leftOut > 0, $"{leftOut} of tax withheld stands in rows with errors; it counts nowhere until they are corrected.", leftOut);
        Error("no-certificates", certificates.RowCount.Equals(0), "Enter the certificates, or remove the list if there are none.", Certificates);
        foreach (var code in smaller)
        {
            Warn($"two-sizes-{code.Code.ToLowerInvariant()}",
                certificates.Any(c => c.Code.Is(code.Code)) & certificates.Any(c => c.Code.Is(code.LargerPayee!)),
                $"{code.Code} and {code.LargerPayee!} stand in one list: the payee is either below the ceiling or above it.", Certificates);
        }
    }
}

/// <summary>The signed declaration of the list.</summary>
public sealed class ListDeclarationForm : Form
{
    /// <inheritdoc />
    public override bool OfOneYear => true;

    /// <summary>Declares the form.</summary>
    public ListDeclarationForm(Definition definition)
        : base(definition, "declaration", "Declaration", "Made by a named person before the list is handed over.")
    {
        Section("Declaration", "NIRC s. 267");
        var made = Answer("true-and-complete", "Made in good faith, true and correct, under the penalties of perjury").Required();
        Text("name", "Name of the person declaring").Required().FollowsPractice("declarant-name");
        Date("date", "Date").Required();
        Error("not-declared", made.IsFilled() & !made, "The declaration must be made before the list can be sent.", made);
    }
}
