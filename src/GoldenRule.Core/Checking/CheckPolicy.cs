using System.Collections.Immutable;
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

/// <summary>What the lead says about the checks, the readers' mail clients and where links may lead.</summary>
public sealed record CheckPolicy
{
    /// <summary>Key in <see cref="Severities"/> of what holds for every campaign type.</summary>
    public const string Everywhere = "*";

    public static CheckPolicy Usual { get; } = new();

    /// <summary>By campaign type, or <see cref="Everywhere"/>; then by check. No entry: the check's usual severity.</summary>
    public ImmutableSortedDictionary<string, ImmutableSortedDictionary<string, Setting>> Severities { get; init; } =
        ImmutableSortedDictionary<string, ImmutableSortedDictionary<string, Setting>>.Empty;

    /// <summary>How many of a hundred readers use each mail client, by the client's key in <see cref="ClientSupport"/>. Empty: not known, all alike.</summary>
    public ImmutableSortedDictionary<string, double> Clients { get; init; } = ImmutableSortedDictionary<string, double>.Empty;

    /// <summary>Hosts that links may lead to, with their subdomains. Empty: any.</summary>
    public ImmutableArray<string> Hosts { get; init; } = [];

    /// <summary>The severity of a check for one campaign type; null: it is off.</summary>
    public Severity? SeverityOf(Check check, string campaignType) =>
        check.Fixed || (Set(campaignType, check.Name) ?? Set(Everywhere, check.Name)) is not { } set ? check.Usual : set switch
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
                    yield return ($"severities/{type}/{name}", $"\"{check.Label}\" is not to be set: the law or the email's own integrity speaks.");
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
    }

    private Setting? Set(string campaignType, string check) =>
        Severities.TryGetValue(campaignType, out var checks) && checks.TryGetValue(check, out var set) ? set : null;
}
