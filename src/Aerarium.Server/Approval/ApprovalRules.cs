using System.Globalization;
using System.Security.Claims;
using Aerarium.Core.Entries;
using Aerarium.Core.Formulas;
using Aerarium.Countries;
using Aerarium.Server.Access;
using Aerarium.Storage;

namespace Aerarium.Server.Approval;

/// <summary>What a practice asks of an approval.</summary>
/// <param name="FourEyes">Whether who prepared a return may not approve it.</param>
/// <param name="SecondFrom">From which amount to pay or to be repaid a second approver signs, canonical; null for never.</param>
/// <param name="ClientAccepts">Whether nothing is sent before the client has accepted it.</param>
/// <param name="SecondFor">Ids of the returns that a second approver always signs.</param>
/// <param name="LawVerified">Whether approval waits until every figure of the law that is not certain and moves the balance is verified.</param>
public sealed record ApprovalRules(bool FourEyes, string? SecondFrom, bool ClientAccepts, IReadOnlyList<string> SecondFor, bool LawVerified)
{
    private const string LawVerifiedRule = "law-verified";
    private const string FourEyesRule = "four-eyes";
    private const string SecondFromRule = "second-signature-from";
    private const string SecondForRule = "second-signature-for";
    private const string ClientAcceptsRule = "client-accepts";

    /// <summary>The rules of the practice; where none is made, four eyes and nothing else.</summary>
    public static ApprovalRules Of(Unit unit)
    {
        var made = PracticeRules.All(unit);
        return new ApprovalRules(
            made.GetValueOrDefault(FourEyesRule) != "no",
            made.GetValueOrDefault(SecondFromRule) is { Length: > 0 } amount ? amount : null,
            made.GetValueOrDefault(ClientAcceptsRule) == "yes",
            made.GetValueOrDefault(SecondForRule)?.Split(' ', StringSplitOptions.RemoveEmptyEntries) ?? [],
            made.GetValueOrDefault(LawVerifiedRule) == "yes");
    }

    /// <summary>Whether a return of this kind, with this balance, needs a second signature.</summary>
    public bool NeedSecond(string definition, decimal balance) =>
        SecondFor.Contains(definition) || (SecondFrom is { } from && Math.Abs(balance) >= decimal.Parse(from, CultureInfo.InvariantCulture));

    /// <summary>Makes these the practice's rules.</summary>
    public void Put(Unit unit)
    {
        PracticeRules.Put(unit, FourEyesRule, FourEyes ? "yes" : "no");
        PracticeRules.Put(unit, SecondFromRule, SecondFrom ?? "");
        PracticeRules.Put(unit, SecondForRule, string.Join(' ', SecondFor));
        PracticeRules.Put(unit, ClientAcceptsRule, ClientAccepts ? "yes" : "no");
        PracticeRules.Put(unit, LawVerifiedRule, LawVerified ? "yes" : "no");
    }
}

internal static class ApprovalRuleEndpoints
{
    public static void MapApprovalRules(this RouteGroupBuilder api)
    {
        var rules = api.MapGroup("/practice/approval-rules").ReachesPractice().WithTags("Approval");
        rules.MapGet("", (PracticeDatabase database) => database.Read(ApprovalRules.Of));
        rules.MapPut("", (ApprovalRules asked, ClaimsPrincipal user, PracticeDatabase database, TimeProvider clock) =>
        {
            var typed = EntryReader.Clean(asked.SecondFrom);
            decimal from = 0;
            if (typed.Length > 0 && (!EntryReader.TryAmount(typed, out from) || from < 0))
            {
                throw PlainProblem.Refused($"'{asked.SecondFrom}' is not an amount from which a second approver could sign; type it in figures, or leave it blank.");
            }

            var kinds = (asked.SecondFor ?? []).Distinct().ToList();
            if (kinds.FirstOrDefault(k => Catalogue.Returns.All(r => r.Id != k)) is { } unknown)
            {
                throw PlainProblem.Refused($"There is no return '{unknown}' for which a second approver could sign.");
            }

            var rules = asked with { SecondFrom = typed.Length == 0 ? null : Figures.Canonical(from), SecondFor = kinds };
            return database.Write(unit =>
            {
                var before = ApprovalRules.Of(unit);
                rules.Put(unit);
                Acts.Add(unit, Caller.Of(user).Act("approval-rules", clock.GetUtcNow()) with { Before = InWords(before), After = InWords(rules) });
                return ApprovalRules.Of(unit);
            });
        }).RequireAuthorization(Policies.Manage);
    }

    private static string InWords(ApprovalRules rules) =>
        $"four eyes {(rules.FourEyes ? "yes" : "no")}, second signature {(rules.SecondFrom is { } from ? $"from {from}" : "from no amount")}{(rules.SecondFor.Count == 0 ? "" : $" and for {string.Join(", ", rules.SecondFor)}")}, client accepts {(rules.ClientAccepts ? "yes" : "no")}, law verified {(rules.LawVerified ? "yes" : "no")}";
}
