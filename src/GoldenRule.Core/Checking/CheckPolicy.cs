using System.Collections.Immutable;
using System.Text.Json.Serialization;
using GoldenRule.Core.Documents;

namespace GoldenRule.Core.Checking;

/// <summary>What a lead may set a check to.</summary>
public enum Setting
{
    Off,
    Advise,
    Warn,
    Stop,
}

/// <summary>
/// What the lead says about the checks, the readers' mail clients, the sites that links may lead to and the domains that
/// may send.
/// </summary>
public sealed record CheckPolicy
{
    /// <summary>Key in <see cref="Severities"/> of what holds for every campaign type.</summary>
    public const string Everywhere = "*";

    public static CheckPolicy Usual { get; } = new();

    /// <summary>By campaign type, or <see cref="Everywhere"/>; then by check. No entry: the check's usual severity.</summary>
    public ImmutableSortedDictionary<string, ImmutableSortedDictionary<string, Setting>> Severities { get; init; } =
        ImmutableSortedDictionary<string, ImmutableSortedDictionary<string, Setting>>.Empty;

    /// <summary>
    /// How many of a hundred readers use each mail client, by the client's key in <see cref="ClientSupport"/>. Empty: not known,
    /// all alike.
    /// </summary>
    public ImmutableSortedDictionary<string, double> Clients { get; init; } = ImmutableSortedDictionary<string, double>.Empty;

    /// <summary>Hosts that links may lead to, with their subdomains. Empty: any.</summary>
    public ImmutableArray<string> Hosts { get; init; } = [];

    /// <summary>Domains that may send, with their subdomains, by campaign type, or <see cref="Everywhere"/>. No entry: any.</summary>
    public ImmutableSortedDictionary<string, ImmutableArray<string>> Senders { get; init; } =
        ImmutableSortedDictionary<string, ImmutableArray<string>>.Empty;

    /// <summary>Campaign types that something is said of.</summary>
    [JsonIgnore]
    public IEnumerable<(string Place, string CampaignType)> CampaignTypes =>
        Severities
            .Keys.Select(type => ($"severities/{type}", type))
            .Concat(Senders.Keys.Select(type => ($"senders/{type}", type)))
            .Where(t => t.type != Everywhere);

    /// <summary>Domains that may send an email of a campaign type: its own list, else that of all. Empty: any.</summary>
    public ImmutableArray<string> SendersFor(string campaignType) =>
        Senders.TryGetValue(campaignType, out var own) || Senders.TryGetValue(Everywhere, out own) ? own : [];

    /// <summary>The severity of a check for one campaign type; null: it is off.</summary>
    public Severity? SeverityOf(Check check, string campaignType) =>
        check.Fixed || (Set(campaignType, check.Name) ?? Set(Everywhere, check.Name)) is not { } set
            ? check.Usual
            : set switch
            {
                Setting.Off => null,
                Setting.Advise => Severity.Advise,
                Setting.Warn => Severity.Warn,
                _ => Severity.Stop,
            };

    /// <summary>What is wrong with it, each with its place. Empty: it can be kept.</summary>
    public IEnumerable<(string Place, string Message)> Faults()
    {
        foreach (var (type, checks) in Severities)
        {
            foreach (var name in checks.Keys)
            {
                if (CheckList.Find(name) is not { } check)
                {
                    yield return ($"severities/{type}/{name}", $"There is no check \"{name}\".");
                }
                else if (check.Fixed)
                {
                    yield return (
                        $"severities/{type}/{name}",
                        $"\"{check.Label}\" is not to be set: the law or the email's own integrity speaks."
                    );
                }
            }
        }

        foreach (var (client, share) in Clients)
        {
            if (ClientSupport.Find(client) is null)
            {
                yield return ($"clients/{client}", $"There is no mail client \"{client}\".");
            }
            else if (share is < 0 or > 100 || double.IsNaN(share))
            {
                yield return ($"clients/{client}", "A share of readers is between 0 and 100 of a hundred.");
            }
        }

        if (Clients.Values.Sum() > 100.5)
        {
            yield return ("clients", $"The shares come to {Clients.Values.Sum():0.#} of a hundred readers. Take some away.");
        }

        foreach (var fault in Hosts.Select(Links.HostFault).OfType<string>())
        {
            yield return ("hosts", fault);
        }

        foreach (var (type, domains) in Senders)
        {
            foreach (var fault in domains.Select(Links.HostFault).OfType<string>())
            {
                yield return ($"senders/{type}", fault);
            }
        }
    }

    private Setting? Set(string campaignType, string check) =>
        Severities.TryGetValue(campaignType, out var checks) && checks.TryGetValue(check, out var set) ? set : null;
}
