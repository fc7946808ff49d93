using Aerarium.Core.Definitions;
using Aerarium.Countries.Common.Accounts;
using static Aerarium.Countries.Common.Accounts.Side;

namespace Aerarium.Countries.Canada.Accounts;

/// <summary>
/// The published items of financial statements in Canada (RC4088, General Index of Financial Information), an extract: from memory. Certain are those of the law sheet; 1480, 8090, 8230, 8522, 8590, 8715,
/// 8960, 9130, 9180, 9200, 9225 and 9281 are from memory alone (likely).
/// </summary>
public static class FinancialItems
{
    /// <summary>Codes that other pages refer to.</summary>
    public const string Assets = "2599", Retained = "3600", Dividends = "3700", Meals = "8523", Gifts = "8522", Amortisation = "8670",
        BeforeTax = "9970", CurrentTax = "9990", DeferredTax = "9995", Profit = "9999", Revenue = "8299", Salaries = "9060";

    /// <summary>The items.</summary>
    public static readonly Chart Chart = new("Items of the financial statements", "RC4088",
    [
        new("Current assets",
        [
            new StatementItem("1001", "Cash and deposits", Debit),
            new StatementItem("1060", "Accounts receivable", Debit),
            new StatementItem("1120", "Inventories", Debit),
            new StatementItem("1480", "Other current assets", Debit),
            new StatementItem("1484", "Prepaid expenses", Debit),
            Total("1599", "Total current assets", "1001", "1060", "1120", "1480", "1484"),
        ]),
        new("Long-term assets",
        [
            new StatementItem("2008", "Tangible capital assets", Debit),
            new StatementItem("2009", "Accumulated amortisation of tangible capital assets", Debit),
            new StatementItem("2178", "Intangible capital assets", Debit),
            new StatementItem("2179", "Accumulated amortisation of intangible capital assets", Debit),
            Total("2589", "Total long-term assets", "2008", "2009", "2178", "2179"),
            Total(Assets, "Total assets", "1599", "2589") with { Rule = LineRule.Final },
        ]),
        new("Liabilities",
        [
            new StatementItem("2620", "Amounts payable and accrued liabilities", Credit),
            new StatementItem("2680", "Taxes payable", Credit),
            new StatementItem("2780", "Due to shareholders", Credit),
            Total("3139", "Total current liabilities", "2620", "2680", "2780"),
            new StatementItem("3140", "Long-term debt", Credit),
            Total("3450", "Total long-term liabilities", "3140"),
            Total("3499", "Total liabilities", "3139", "3450"),
        ]),
        new("Equity",
        [
            new StatementItem("3500", "Common shares", Credit),
            Total(Retained, "Retained earnings", "3849") with { Rule = LineRule.None },
            Total("3620", "Total equity", "3500", Retained),
            Total("3640", "Total liabilities and equity", "3499", "3620") with { Rule = LineRule.Final },
        ]),
        new("Retained earnings",
        [
            new StatementItem("3660", "Retained earnings at the beginning", Credit),
            Total("3680", "Net income", Profit) with { Rule = LineRule.None },
            new StatementItem(Dividends, "Dividends declared", Debit),
            new StatementTotal("3849", "Retained earnings at the end", ["3660", "3680"], [Dividends]),
        ]),
        new("Revenue",
        [
            new StatementItem("8000", "Sales of goods and services", Credit),
            Total("8089", "Total sales", "8000"),
            new StatementItem("8090", "Investment revenue", Credit),
            new StatementItem("8230", "Other revenue", Credit),
            Total(Revenue, "Total revenue", "8089", "8090", "8230"),
        ]),
        new("Cost of sales",
        [
            new StatementItem("8300", "Opening inventory", Debit),
            new StatementItem("8320", "Purchases", Debit),
            new StatementItem("8500", "Closing inventory", Credit),
            new StatementTotal("8518", "Cost of sales", ["8300", "8320"], ["8500"]),
            new StatementTotal("8519", "Gross profit", ["8089"], ["8518"]),
        ]),
        new("Operating expenses",
        [
            new StatementItem("8521", "Advertising", Debit),
            new StatementItem(Gifts, "Gifts to charities", Debit),
            new StatementItem(Meals, "Meals and entertainment", Debit),
            new StatementItem("8590", "Bad debts", Debit),
            new StatementItem(Amortisation, "Amortisation of tangible assets", Debit),
            new StatementItem("8690", "Insurance", Debit),
            new StatementItem("8710", "Interest and bank charges", Debit),
            new StatementItem("8715", "Bank charges", Debit),
            new StatementItem("8810", "Office expenses", Debit),
            new StatementItem("8860", "Professional fees", Debit),
            new StatementItem("8910", "Rent", Debit),
            new StatementItem("8960", "Repairs and maintenance", Debit),
            new StatementItem(Salaries, "Salaries and wages", Debit),
            new StatementItem("9130", "Supplies", Debit),
            new StatementItem("9180", "Property taxes", Debit),
            new StatementItem("9200", "Travel", Debit),
            new StatementItem("9220", "Utilities", Debit),
            new StatementItem("9225", "Telephone and internet", Debit),
            new StatementItem("9270", "Other expenses", Debit),
            new StatementItem("9281", "Vehicles", Debit),
            Total("9367", "Total operating expenses",
                "8521", Gifts, Meals, "8590", Amortisation, "8690", "8710", "8715", "8810", "8860", "8910", "8960", Salaries, "9130", "9180", "9200", "9220", "9225", "9270", "9281"),
            Total("9368", "Total expenses", "8518", "9367"),
        ]),
        new("Profit",
        [
            new StatementTotal("9369", "Net income, farming apart", [Revenue], ["9368"]),
            Total(BeforeTax, "Net income before tax", "9369"),
            new StatementItem(CurrentTax, "Current income tax", Debit),
            new StatementItem(DeferredTax, "Deferred income tax", Debit),
            new StatementTotal(Profit, "Net income after tax", [BeforeTax], [CurrentTax, DeferredTax]) { Rule = LineRule.Final },
        ]),
    ])
    {
        Assets = Assets,
        LiabilitiesAndEquity = "3640",
        Profit = Profit,
        OpeningRetained = "3660",
        ClosingRetained = "3849",
        RoundingPlacedIn = "2620",
    };

    private static StatementTotal Total(string code, string label, params string[] added) => new(code, label, added, []);
}
