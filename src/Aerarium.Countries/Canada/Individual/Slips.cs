using Aerarium.Filing;

namespace Aerarium.Countries.Canada.Individual;

/// <summary>What payers and schools state, from the authority or on paper: slips T4, T4A, T4E, T5, T4RSP and T2202. Never held there: receipts for gifts, medical expenses, child care and the work space.</summary>
public static class Slips
{
    /// <summary>The record.</summary>
    public static readonly PublishedRecord Record = new(
        "The notice carries the retirement savings limit, unused tuition federal and provincial, losses by year, the training credit limit and instalments (ITA 111, 118.61, 122.91, 146).",
        new StatementKind("t4", "Slip T4", "employment.slips", "payer", "payer", "account", "sin",
            [
                new("income", "income"), new("tax", "tax"), new("place", "place"), new("plan", "plan"), new("second", "second"), new("quebec", "quebec"), new("quebecSecond", "quebec-second"), new("premiums", "premiums"),
                new("parental", "parental"), new("pensionPlan", "pension-plan"), new("adjustment", "adjustment"), new("insurable", "insurable"), new("pensionable", "pensionable"), new("dues", "dues"), new("gifts", "gifts"),
            ]),
        new StatementKind("t4a", "Slip T4A or T4RIF", "benefits.pensions", "payer", "payer", null, "sin", [new("kind", "kind"), new("pension", "amount"), new("tax", "tax")]),
        new StatementKind("t4e", "Slip T4E", "benefits.insurance", "payer", "payer", null, "sin", [new("total", "total"), new("regular", "regular"), new("rate", "rate"), new("tax", "tax")]),
        new StatementKind("t5", "Slip T5 or T3", "investments.slips", "payer", "payer", null, "sin", [new("interest", "interest"), new("eligible", "eligible"), new("other", "other"), new("gains", "gains")]),
        new StatementKind("t4rsp", "Slip T4RSP or T4FHSA", "other.items", "payer", "payer", null, "sin", [new("kind", "kind"), new("amount", "amount"), new("tax", "tax")]),
        new StatementKind("t2202", "Slip T2202", "tuition.slips", "institution", "institution", null, "sin",
            [new("student", "student"), new("fees", "fees"), new("monthsPart", "months-part"), new("monthsFull", "months-full")]))
    {
        NeverHeld =
        [
            "receipts for gifts", "medical receipts", "child care receipts", "bills of the home for a work space, and the employer's form T2200", "receipts for dues and professional fees",
            "carrying charges of investments", "cost of securities and property sold", "books of a business or a property let", "lender's statement on student loans",
        ],
    };
}
