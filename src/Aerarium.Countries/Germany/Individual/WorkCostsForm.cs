using Aerarium.Core.Definitions;
using Aerarium.Core.Formulas;
using Aerarium.Countries.Germany.Parameters;
using static Aerarium.Core.Formulas.Law;

namespace Aerarium.Countries.Germany.Individual;

/// <summary>Employment expenses: what was spent to earn the wage, against the lump sum (EStG s. 9, 9a).</summary>
public sealed class WorkCostsForm : Form
{
    /// <summary>Other costs of work.</summary>
    private static readonly IReadOnlyList<Choice> Classes =
    [
        new("account-fee", "Account fee"), new("dues", "Union and professional dues"), new("training", "Training"), new("applications", "Applications"), new("equipment", "Work equipment without receipts"),
        new("literature", "Professional literature"), new("other", "Other costs of work"),
    ];

    private readonly IncomeTaxLaw _law;

    private sealed record Way(AmountLine Days, AmountLine Whole, AmountLine ByCar, AmountLine Disabled, AmountLine Tickets);

    private sealed record Tool(AmountLine Used);

    private sealed record Cost(ChoiceLine Class, AmountLine Amount, AnswerLine Receipts);

    private sealed record Trip(AmountLine Meals, AmountLine Costs);

    /// <summary>Expenses in all, what is deducted, the lump sum that was used, and the income from employment.</summary>
    public readonly AmountLine Total, Allowed, LumpSumUsed, Income;

    /// <summary>Declares the form.</summary>
    public WorkCostsForm(Definition definition, IncomeTaxLaw law, ScopeForm scope, Person person, WageForm wages, WorkCostsForm? beside = null)
        : base(definition, "work-costs", "Employment expenses", "What was spent to earn the wage, against the lump sum.", person.Employed, Person.Spouse(beside))
    {
        _law = law;
        var (commuting, days) = Commuting(scope, person, wages);
        var homeOffice = HomeOffice(person, days);
        var tools = Tools(person);
        var travel = Travel(person, wages);
        var second = SecondHousehold(person, wages);
        var moved = Removal(person);

        Section(Glossary.In("Employment expenses"), "EStG s. 9, 9a", name: "result");
        Total = Line("total", "Expenses in all", commuting + homeOffice + tools + travel + second + moved).Subtotal();
        LumpSumUsed = Line("lump-sum-used", Glossary.In("Employee lump sum") + " as far as there is a wage", Min(law.LumpSum, wages.Gross)).Law("EStG s. 9a s. 2");
        var below = Line("until-lump-sum", "Still missing until the expenses count", AtLeastZero(LumpSumUsed - Total));
        Allowed = Line("allowed", "Deducted", Max(Total, LumpSumUsed)).Law("EStG s. 9, 9a no. 1a").Subtotal();
        Income = Line("income", Glossary.In("Employment income"), wages.Gross - Allowed).Law("EStG s. 2(2) no. 2").Final();
        Note("under-lump-sum", Total > 0 & Total <= LumpSumUsed, $"The expenses stay {below} under the lump sum; they have no effect.", Total);
        Note("wage-small", Total > wages.Gross, $"The expenses are {Total - wages.Gross} more than the wage: the loss lowers other income.", Total);
    }

    private Amount PerKilometre(Amount kilometres) =>
        (_law.NearKilometre * Min(kilometres, _law.NearKilometres)) + (_law.FarKilometre * AtLeastZero(kilometres - _law.NearKilometres));

    private (Amount Deducted, Amount Days) Commuting(ScopeForm scope, Person person, WageForm wages)
    {
        var law = _law;
        Section(Glossary.In("Commuting allowance"), "EStG s. 9(1) s. 3 no. 4, 9(2)", person.Commuting, "commuting");
        var disabled = Answer("severely-disabled", "Severely disabled?").Hint("degree of 70, or 50 with a mark for mobility");
        var working = NumberLine("working-days", $"Working days of {law.Year} in the state", scope.State.In(WorkingDaysOf(law.Year))).Unit("days");
        var leave = Count("leave", "Days of leave and illness").From("payroll").Hint("some 30 days of leave are usual");

        var ways = Repeating("ways", "Ways to work", "way to work", row =>
        {
            row.NamedBy(row.Text("place", "Place of work").From("diary, contract").Required());
            var days = row.Count("days", "Days").UsuallyLasts().From("diary").Required().Between(0, 366).Hint("days the place was visited");
            var distance = row.Measure("distance", "Distance one way", 1).UsuallyLasts().Unit("km").From("map").Required().Hint("shortest road; parts of a kilometre do not count");
            var byCar = row.Measure("by-car", "of which by own or provided car", 1).UsuallyLasts().Unit("km").Hint("blank: none");
            var tickets = row.Entry("tickets", "Tickets of public transport").From("tickets");
            var daysAWeek = row.Count("days-a-week", "Working days a week").UsuallyLasts().Between(1, 7).Hint("blank: five");
            row.Error("car-further", byCar > distance & distance.IsFilled(), "The part by car is longer than the whole distance.", byCar);
            row.Warn("many-days", (days > law.UsualDays & daysAWeek.Or(5) <= 5) | days > law.MostDays, $"{days} days are more than usual; keep a diary.", days);
            row.Warn("long-way", distance > law.LongWay & days > law.LongWay, "A long way each day: a request for proof is to be expected.", distance);
            var whole = row.Line("whole", "Allowance, whole distance", days * PerKilometre(Round(distance, DownToUnits))).Law("EStG s. 9(1) s. 3 no. 4");
            var car = row.Line("car", "of which by car", days * PerKilometre(Round(byCar, DownToUnits)));
            return new Way(days, whole, car, row.Line("disabled", "By car, severely disabled", If(disabled, days * (law.DisabledKilometre * Round(byCar, DownToUnits)), 0)).Law("EStG s. 9(2) s. 3"), tickets);
        }, "EStG s. 9(1) s. 3 no. 4", person.Commuting);

        Section("Ways to work in all", "EStG s. 9(1) s. 3 no. 4, 9(2)", person.Commuting, "commuting-all");
        var byCar = Line("by-car", "By car", Max(ways.Sum(w => w.Disabled), ways.Sum(w => w.ByCar)));
        var other = Line("by-other", "By other means, up to the cap", Min(ways.Sum(w => w.Whole) - ways.Sum(w => w.ByCar), law.CommutingCap)).Law("EStG s. 9(1) s. 3 no. 4 s. 2");
        var allowance = Line("allowance", "Allowance", byCar + other);
        var tickets = Line("tickets", "Tickets", ways.Sum(w => w.Tickets)).Law("EStG s. 9(2) s. 2");
        var deducted = Line("commuting", "Ways to work", AtLeastZero(Max(allowance, tickets) - wages.CommutingPaid)).Law("EStG s. 9(1) s. 3 no. 4, s. 40(2)").Subtotal();
        var days = ways.Sum(w => w.Days);
        Error("no-way", person.Commuting & ways.RowCount.Equals(0), "Enter the way to each place of work, or answer in Scope that there was none.", person.Commuting);
        Warn("more-than-working-days", days > working - leave & ways.RowCount > 0, $"{days} days of ways to work are more than the {working - leave} working days less leave and illness; a five-day week has no more.", leave);
        Note("tickets-higher", tickets > allowance, $"The tickets of {tickets} are used because they are higher than the allowance of {allowance}.", tickets);
        Note("cap-reached", ways.Sum(w => w.Whole) - ways.Sum(w => w.ByCar) > law.CommutingCap, $"Without a car no more than {law.CommutingCap} counts; {ways.Sum(w => w.Whole) - ways.Sum(w => w.ByCar) - law.CommutingCap} is lost.", other);
        return (deducted, days);
    }

    private Amount HomeOffice(Person person, Amount commutingDays)
    {
        var law = _law;
        Section(Glossary.In("Home-office allowance"), "EStG s. 4(5) no. 6b, 6c", person.HomeOffice, "home-office");
        var days = Count("home-office-days", "Days of work at home").From("diary").Between(0, 366).Hint(law.Year < 2023 ? "the whole day at home" : "mainly at home, and the place of work not visited");
        var otherPlace = Answer("other-workplace", "A workplace at the employer's for the same work?").UsuallyYes().Hint("if not, days on which the place was visited count too");
        var room = Choice("workroom", Glossary.In("Workroom"), law.WorkroomLumpSum is null
            ? [new("none", "None"), new("centre", "Centre of all work"), new("no-other", "No other workplace for the work")]
            : [new("none", "None"), new("centre", "Centre of all work: costs"), new("lump-sum", "Centre of all work: lump sum")]).Hint("instead of the day allowance");
        var byCosts = law.WorkroomLumpSum is null ? room.Is("centre") | room.Is("no-other") : room.Is("centre");
        var costs = Entry("workroom-costs", "Costs of the workroom").From("rent, heating, electricity by area").When(byCosts).RequiredWhen(byCosts);
        var counted = NumberLine("home-office-counted", "Days that count", Min(days, law.HomeOfficeDays)).Unit("days");
        Amount roomAmount = If(room.Is("centre"), costs, 0);
        if (law.WorkroomMost is { } most)
        {
            roomAmount = If(room.Is("no-other"), Min(costs, most), roomAmount);
        }
        else if (law.WorkroomLumpSum is { } sum)
        {
            var months = Count("workroom-months", "Months of use").Between(1, 12).When(room.Is("lump-sum")).RequiredWhen(room.Is("lump-sum"));
            roomAmount = If(room.Is("lump-sum"), Round(sum * months / 12, ToCents), roomAmount);
        }

        var hasRoom = room.IsFilled() & !room.Is("none");
        var deducted = Line("home-office", "Work at home", If(hasRoom, roomAmount, law.HomeOfficeDay * counted)).Subtotal();
        Error("more-days-than-year", commutingDays + days > DaysIn(law.Year) & (otherPlace | otherPlace.IsBlank()), $"Ways to work and work at home together have more days than {law.Year}.", days);
        Warn("many-days-together", commutingDays + days > law.UsualDays, "Ways to work and work at home together are more days than usual.", days);
        Warn("days-above-limit", days > law.HomeOfficeDays, $"{days - law.HomeOfficeDays} days above the limit of {law.HomeOfficeDays} are not counted.", days);
        Note("workroom-instead", hasRoom & days > 0, "The workroom takes the place of the day allowance.", room);
        return deducted;
    }

    private Amount Tools(Person person)
    {
        var law = _law;
        var (first, last) = (new DateOnly(law.Year, 1, 1), new DateOnly(law.Year, 12, 31));
        var tools = Repeating("tools", Glossary.In("Work equipment"), "thing", row =>
        {
            row.NamedBy(row.Text("what", "What").From("invoice").Required());
            var bought = row.Date("bought", "Bought on").From("invoice").Required();
            var net = row.Entry("net", "Net price").UsuallyLasts().From("invoice").Required();
            var gross = row.Entry("gross", "Price with tax").UsuallyLasts().From("invoice").Required();
            var share = row.Measure("share", "Used for work", 2).UsuallyLasts().Unit("%").Between(0, 100).Hint("blank: all");
            var life = row.Count("life", "Years of use").UsuallyLasts().Between(1, 25).Hint("computers and programs: 1").RequiredWhen(net > law.AtOnce);
            row.Error("net-above-gross", net > gross & gross.IsFilled(), "The net price is higher than the price with tax.", net);
            row.Error("bought-later", bought > last, $"Bought after {law.Year}; leave it for that year.", bought);
            var cost = gross * share.Or(100) / 100;
            var months = Max(life.Or(1), 1) * 12;
            var spread = Min(months, MonthsTouched(bought, last)) - If(bought < first, Min(months, MonthsTouched(bought, new DateOnly(law.Year - 1, 12, 31))), 0);
            return new Tool(row.Line("used", "Written off this year", If(net <= law.AtOnce | life.Or(1).Equals(1), If(bought >= first, cost, 0), cost * spread / months), ToCents).Law("EStG s. 9(1) no. 7, 7(1)"));
        }, "EStG s. 9(1) no. 6, 7", person.Tools);
        var costs = Repeating("costs", "Other costs of work", "cost", row =>
        {
            var @class = row.Choice("class", "Kind", Classes).Required();
            row.NamedBy(@class);
            row.Text("what", "What");
            var amount = row.Entry("amount", "Amount").From("invoice, or common practice").Required();
            var receipts = row.Answer("receipts", "Receipts?");
            row.Warn("fee-without-receipt", @class.Is("account-fee") & amount > law.AccountFee & !receipts, $"Without receipts no more than {law.AccountFee} is usually accepted (common practice).", amount);
            row.Warn("equipment-without-receipt", @class.Is("equipment") & amount > law.EquipmentWithoutReceipts & !receipts, $"Without receipts no more than {law.EquipmentWithoutReceipts} is usually accepted (common practice).", amount);
            return new Cost(@class, amount, receipts);
        }, "EStG s. 9(1) no. 3, s. 9(6)", person.Tools);
        Section("Equipment and other costs", "EStG s. 9(1)", person.Tools, "tools-all");
        var bill = Entry("telephone", "Telephone and internet bills of the year").From("bills").Hint("private ones, used for work too");
        var months = Count("telephone-months", "Months of them").Between(1, 12).Hint("blank: twelve");
        var telephone = Line("telephone-allowed", "Telephone and internet", Min(Round(law.TelephoneShare * bill, ToCents), law.TelephoneMonth * months.Or(12))).Law("LStR 9.1(5)");
        return Line("tools-total", "Equipment and other costs", tools.Sum(t => t.Used) + costs.Sum(c => c.Amount) + telephone).Subtotal();
    }

    private Amount Travel(Person person, WageForm wages)
    {
        var law = _law;
        var trips = Repeating("trips", "Travel on duty", "trip", row =>
        {
            row.NamedBy(row.Text("where", "Where and why").From("trip sheet").Required());
            row.Date("date", "Begun on").From("trip sheet").Required();
            var part = row.Count("part-days", "Days of more than eight hours, arrivals, departures").From("trip sheet");
            var whole = row.Count("whole-days", "Whole days").From("trip sheet");
            var breakfasts = row.Count("breakfasts", "Breakfasts provided");
            var meals = row.Count("meals", "Lunches and dinners provided");
            var kilometres = row.Measure("kilometres", "Driven by own car", 1).Unit("km");
            var nights = row.Count("nights-in-vehicle", "Nights in the vehicle").Hint("professional drivers");
            var other = row.Entry("other", "Fares, lodging and other costs").From("receipts");
            var reimbursed = row.Entry("reimbursed", "Reimbursed by the employer, without meals");
            var allowance = row.Line("meal-allowance", Glossary.In("Meal allowance"),
                AtLeastZero((law.MealsOfPart * part) + (law.MealsOfDay * whole) - (law.BreakfastShare * (law.MealsOfDay * breakfasts)) - (law.MealShare * (law.MealsOfDay * meals))), ToCents).Law("EStG s. 9(4a)");
            return new Trip(allowance, row.Line("costs", "Other costs less what was reimbursed", AtLeastZero((law.TravelKilometre * kilometres) + (law.DriverNight * nights) + other - reimbursed), ToCents));
        }, "EStG s. 9(1) no. 4a, 5a, 9(4a)", person.Travel);
        Section("Travel in all", "EStG s. 9(4a)", person.Travel, "travel");
        var meals = Line("travel-meals", "Meals, less what was paid for them", AtLeastZero(trips.Sum(t => t.Meals) - wages.MealsPaid));
        return Line("travel", "Travel on duty", meals + trips.Sum(t => t.Costs)).Subtotal();
    }

    private Amount SecondHousehold(Person person, WageForm wages)
    {
        var law = _law;
        Section(Glossary.In("Second household"), "EStG s. 9(1) no. 5", person.SecondHousehold, "second-household");
        Text("second-place", "Place, and why").RequiredWhen(person.SecondHousehold).From("lease");
        Date("second-since", "Since").RequiredWhen(person.SecondHousehold);
        var own = Answer("second-own-home", "A home of one's own elsewhere, with a share in its costs?").RequiredWhen(person.SecondHousehold).Hint("more than a tenth of the running costs");
        var months = Count("second-months", "Months in the year").Between(1, 12).RequiredWhen(person.SecondHousehold);
        var rent = Entry("second-rent", "Rent and running costs, of these months").From("lease").RequiredWhen(person.SecondHousehold);
        var trips = Count("second-trips", "Trips home").Hint("one a week, not with a company car");
        var distance = Measure("second-distance", "Distance one way", 1).UsuallyLasts().Unit("km");
        var meals = Entry("second-meals", "Meals of the first three months").Hint("as for travel");
        var furniture = Entry("second-furniture", "Furniture and other costs").From("invoices").Hint("up to 5,000 are not questioned");
        var reimbursed = Entry("second-reimbursed", "Reimbursed by the employer, besides line 21");
        var lodging = Line("second-lodging", "Lodging", Min(rent, law.LodgingMonth * months)).Law("EStG s. 9(1) no. 5 s. 4");
        var home = Line("second-home", "Trips home", trips * PerKilometre(Round(distance, DownToUnits)), ToCents).Law("EStG s. 9(1) no. 5 s. 5 to 8");
        Error("no-own-home", own.IsFilled() & !own, "Without a home of one's own elsewhere there is no second household; answer so in Scope.", own);
        Warn("rent-above-limit", rent > law.LodgingMonth * months, $"Rent above {law.LodgingMonth} a month is not deducted: {rent - lodging} is lost.", rent);
        return Line("second", "Second household", If(own, AtLeastZero(lodging + home + meals + furniture - reimbursed - wages.SecondHouseholdPaid), 0)).Subtotal();
    }

    private Amount Removal(Person person)
    {
        Section(Glossary.In("Removal"), "EStG s. 9(1); BUKG s. 10", person.Moved, "removal");
        var day = Date("moved-on", "Day before the furniture was loaded").OfOneYear().RequiredWhen(person.Moved);
        var dwelling = Answer("moved-own-dwelling", "A dwelling of one's own before and after?").OfOneYear().RequiredWhen(person.Moved);
        var others = Count("moved-persons", "Other persons of the household who moved").OfOneYear();
        var costs = Entry("moved-costs", "Carriage, travel, double rent and other costs").OfOneYear().From("invoices");
        var reimbursed = Entry("moved-reimbursed", "Reimbursed by the employer").OfOneYear();
        var lump = Line("moved-lump-sum", "Lump sum of other costs", If(day.IsFilled(), ByDay(r => If(dwelling, r.Entitled + (r.Other * (Amount)others), r.WithoutDwelling)), 0)).Law("BUKG s. 10");
        return Line("moved", "Removal", AtLeastZero(lump + costs - reimbursed)).Subtotal();

        Amount ByDay(Func<(DateOnly From, Parameter Entitled, Parameter Other, Parameter WithoutDwelling), Amount> of) =>
            IncomeTaxLaw.Removal.Reverse().Aggregate((Amount)0, (before, r) => If(day >= r.From, of(r), before));
    }

    private static int DaysIn(int year) => DateTime.IsLeapYear(year) ? 366 : 365;

    private static Dictionary<string, Parameter> WorkingDaysOf(int year) => ScopeForm.States.ToDictionary(
        s => s.Code, s => Parameter.Number($"working days of {year}, {s.Label}", GermanyHolidays.WorkingDays(s.Code, year), "holidays of the state", Core.Definitions.Confidence.Likely));
}
