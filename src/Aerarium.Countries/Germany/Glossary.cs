namespace Aerarium.Countries.Germany;

/// <summary>The German terms of the statutes beside the English ones, in one place; labels are made of both, so that either is found.</summary>
public static class Glossary
{
    /// <summary>English terms with the German term of the statute.</summary>
    public static readonly IReadOnlyDictionary<string, string> Terms = new Dictionary<string, string>
    {
        ["Wage statement"] = "Lohnsteuerbescheinigung",
        ["Gross wage"] = "Bruttoarbeitslohn",
        ["Wage tax"] = "Lohnsteuer",
        ["Solidarity surcharge"] = "Solidaritätszuschlag",
        ["Church tax"] = "Kirchensteuer",
        ["Wages for several years and severance"] = "Arbeitslohn für mehrere Jahre, Entschädigungen",
        ["Benefits in place of wages"] = "Lohnersatzleistungen",
        ["Employment expenses"] = "Werbungskosten",
        ["Employee lump sum"] = "Arbeitnehmer-Pauschbetrag",
        ["Commuting allowance"] = "Entfernungspauschale",
        ["Home-office allowance"] = "Tagespauschale",
        ["Workroom"] = "häusliches Arbeitszimmer",
        ["Work equipment"] = "Arbeitsmittel",
        ["Meal allowance"] = "Verpflegungsmehraufwand",
        ["Second household"] = "doppelte Haushaltsführung",
        ["Removal"] = "Umzugskosten",
        ["Employment income"] = "Einkünfte aus nichtselbständiger Arbeit",
        ["Sum of incomes"] = "Summe der Einkünfte",
        ["Total income"] = "Gesamtbetrag der Einkünfte",
        ["Relief for age"] = "Altersentlastungsbetrag",
        ["Lone-parent relief"] = "Entlastungsbetrag für Alleinerziehende",
        ["Special expenses"] = "Sonderausgaben",
        ["Provident expenses"] = "Vorsorgeaufwendungen",
        ["Old-age contributions"] = "Altersvorsorgeaufwendungen",
        ["Donations"] = "Spenden",
        ["Maintenance of a divorced spouse"] = "Realsplitting",
        ["Childcare"] = "Kinderbetreuungskosten",
        ["Extraordinary burdens"] = "außergewöhnliche Belastungen",
        ["Reasonable own share"] = "zumutbare Belastung",
        ["Disability lump sum"] = "Behinderten-Pauschbetrag",
        ["Income"] = "Einkommen",
        ["Child allowances"] = "Freibeträge für Kinder",
        ["Child benefit"] = "Kindergeld",
        ["Hardship relief"] = "Härteausgleich",
        ["Taxable income"] = "zu versteuerndes Einkommen",
        ["Tax by the tariff"] = "tarifliche Einkommensteuer",
        ["Splitting"] = "Splittingverfahren",
        ["Progression clause"] = "Progressionsvorbehalt",
        ["One-fifth method"] = "Fünftelregelung",
        ["Household services"] = "haushaltsnahe Dienstleistungen",
        ["Craftsmen"] = "Handwerkerleistungen",
        ["Income tax"] = "festzusetzende Einkommensteuer",
        ["Prepayments"] = "Vorauszahlungen",
        ["Interest"] = "Nachzahlungs- und Erstattungszinsen",
        ["Late surcharge"] = "Verspätungszuschlag",
        ["Identification number"] = "Identifikationsnummer",
        ["Tax number"] = "Steuernummer",
        ["Tax office"] = "Finanzamt",
        ["Capital income"] = "Einkünfte aus Kapitalvermögen",
        ["Saver's allowance"] = "Sparer-Pauschbetrag",
        ["Tax on capital income"] = "Abgeltungsteuer",
        ["Capital tax withheld"] = "Kapitalertragsteuer",
        ["Subsidised private pension"] = "geförderte private Altersvorsorge",
        ["Basic allowance"] = "Grundzulage",
        ["Joint assessment"] = "Zusammenveranlagung",
    };

    /// <summary>A term with the German one behind it.</summary>
    /// <exception cref="KeyNotFoundException">The glossary does not have it.</exception>
    public static string In(string term) => $"{term} ({Terms[term]})";
}
