using System.Collections.Concurrent;
using System.Security.Cryptography.X509Certificates;
using System.Text.Json;

namespace Aerarium.StandIn;

/// <summary>A registered taxpayer.</summary>
public sealed record Taxpayer(
    string Pin, string Name, string? BirthDate = null, string? Email = null, string? Phone = null, string? PostalAddress = null, string? AccountNumber = null)
{
    /// <summary>Years for which the authority has asked for a return; a later one is not taken before it.</summary>
    public IReadOnlyList<int> Asked { get; init; } = [];

    /// <summary>Whether the taxpayer is registered for a notice of assessment at once.</summary>
    public bool ImmediateNotice { get; init; }

    /// <summary>A company's account with Alberta's authority; null where it has none.</summary>
    public string? AlbertaAccount { get; init; }

    /// <summary>Whether an officer looks at each return and decides where the papers do not carry it.</summary>
    public bool AssessedByHand { get; init; }
}

/// <summary>The assessment of a year.</summary>
public sealed record AssessmentNotice(string Pin, string Number, int Year, string TaxAssessed, string Paid, string Unpaid, string RefundOpen);

/// <summary>A payer's statement of a year as the authority holds it, such as an employer's certificate.</summary>
public sealed record PayerStatement(
    string Number, string Kind, string Identifier, int Year, string? PayerNumber, string PayerName, IReadOnlyDictionary<string, string> Boxes);

/// <summary>What the authority has of a period that was filed before it took returns from software, or by somebody else.</summary>
/// <param name="Identifier">The taxpayer.</param>
/// <param name="Year">The year.</param>
/// <param name="Period">The quarter: Q1 to Q4.</param>
/// <param name="Payable">What was to pay with the return of the period.</param>
/// <param name="Withheld">What the list of the period says was withheld.</param>
public sealed record FiledElsewhere(string Identifier, int Year, string Period, decimal Payable, decimal Withheld);

/// <summary>An agent that may file for taxpayers, with the certificate it signs with.</summary>
public sealed record Agent(string Pin, string Name, string Certificate, string? UserName = null, string? SecretSha256 = null);

/// <summary>What the authority knows: taxpayers, payers' statements, agents.</summary>
public sealed class Registry
{
    private static readonly JsonSerializerOptions Json = new(JsonSerializerDefaults.Web) { WriteIndented = true };

    private readonly ConcurrentDictionary<string, Taxpayer> _taxpayers;
    private readonly IReadOnlyList<PayerStatement> _statements;
    private readonly IReadOnlyList<AssessmentNotice> _assessments;
    private readonly IReadOnlyList<FiledElsewhere> _filed;
    private readonly ConcurrentDictionary<string, Agent> _agents;
    private readonly string _folder;
    private readonly Lock _gate = new();

    private Registry(IEnumerable<Taxpayer> taxpayers, Shipped shipped, IEnumerable<Agent> agents, string folder)
    {
        _taxpayers = new(taxpayers.Select(t => KeyValuePair.Create(t.Pin, t)));
        _statements = shipped.Statements;
        _assessments = shipped.Assessments;
        _filed = shipped.Filed ?? [];
        _agents = new(agents.Select(a => KeyValuePair.Create(a.Pin, a)));
        _folder = folder;
    }

    /// <summary>Loads the registry that ships with the stand-in, and what was registered since.</summary>
    public static Registry Load(string shipped, string folder)
    {
        Directory.CreateDirectory(folder);
        var countries = Directory.EnumerateFiles(shipped, "*.json").Order(StringComparer.Ordinal)
            .Select(f => JsonSerializer.Deserialize<Shipped>(File.ReadAllText(f), Json)!).ToList();
        var content = new Shipped(
            [.. countries.SelectMany(c => c.Taxpayers)], [.. countries.SelectMany(c => c.Statements)], [.. countries.SelectMany(c => c.Assessments)], [.. countries.SelectMany(c => c.Filed ?? [])]);
        return new Registry(
            [.. content.Taxpayers, .. Kept<Taxpayer>(folder, "taxpayers.json").Where(k => content.Taxpayers.All(t => t.Pin != k.Pin))],
            content,
            Kept<Agent>(folder, "agents.json"),
            folder);
    }

    /// <summary>A taxpayer by identifier, or null.</summary>
    public Taxpayer? Taxpayer(string pin) => _taxpayers.GetValueOrDefault(pin);

    /// <summary>All taxpayers by identifier.</summary>
    public IEnumerable<Taxpayer> Taxpayers => _taxpayers.Values.OrderBy(t => t.Pin, StringComparer.Ordinal);

    /// <summary>Payers' statements about a taxpayer for a year.</summary>
    public IEnumerable<PayerStatement> Statements(string pin, int year) => _statements.Where(s => s.Identifier == pin && s.Year == year);

    /// <summary>The assessment of a taxpayer for a year, or null.</summary>
    public AssessmentNotice? Assessment(string pin, int year) => _assessments.FirstOrDefault(a => a.Pin == pin && a.Year == year);

    /// <summary>What was filed elsewhere for a period, or null.</summary>
    public FiledElsewhere? Filed(string pin, int year, string period) => _filed.FirstOrDefault(f => f.Identifier == pin && f.Year == year && f.Period == period);

    /// <summary>Registers a taxpayer.</summary>
    public void Register(Taxpayer taxpayer)
    {
        _taxpayers[taxpayer.Pin] = taxpayer;
        Keep("taxpayers.json", _taxpayers.Values);
    }

    /// <summary>
    /// Registers an agent's certificate; a later one replaces the earlier. The first user name and secret an agent gives
    /// open its account; after that only these are taken. False when they are others.
    /// </summary>
    public bool Register(Agent agent)
    {
        lock (_gate)
        {
            if (_agents.TryGetValue(agent.Pin, out var known) && known.UserName is not null
                && (known.UserName != agent.UserName || known.SecretSha256 != agent.SecretSha256))
            {
                return false;
            }

            if (known != agent)
            {
                _agents[agent.Pin] = agent;
                Keep("agents.json", _agents.Values);
            }

            return true;
        }
    }

    /// <summary>Whether a user name and secret may sign in: those of an agent, or of one not known yet, as with <see cref="Register(Agent)"/>.</summary>
    public bool Opens(string userName, string secretSha256) => _agents.Values.All(a => a.UserName != userName || a.SecretSha256 == secretSha256);

    /// <summary>Whether a certificate is the one an agent registered.</summary>
    public bool IsCertificateOf(string agentPin, X509Certificate2 certificate) =>
        _agents.TryGetValue(agentPin, out var agent) && agent.Certificate == Convert.ToBase64String(certificate.RawData);

    private static List<T> Kept<T>(string folder, string file)
    {
        var path = Path.Combine(folder, file);
        return File.Exists(path) ? JsonSerializer.Deserialize<List<T>>(File.ReadAllText(path), Json)! : [];
    }

    private void Keep<T>(string file, IEnumerable<T> items)
    {
        lock (_agents)
        {
            Archive.WriteWhole(Path.Combine(_folder, file), JsonSerializer.SerializeToUtf8Bytes(items, Json));
        }
    }

    private sealed record Shipped(List<Taxpayer> Taxpayers, List<PayerStatement> Statements, List<AssessmentNotice> Assessments, List<FiledElsewhere>? Filed = null);
}
