using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Sending;
using GoldenRule.Data;
using GoldenRule.Server.Destinations;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Hosting;
using Microsoft.EntityFrameworkCore;

namespace GoldenRule.Server.Sends;

/// <summary>Somebody on a list, before it is stored.</summary>
/// <param name="OtherId">What the destination calls them; empty: it knows them by their address.</param>
internal sealed record PlannedRecipient(string Address, string OtherId, ImmutableSortedDictionary<string, string> Values);

/// <summary>Reads a list, leaves out whom it must, and draws the batches.</summary>
internal sealed record SendPlanning(string ListName, ImmutableArray<PlannedRecipient> Recipients, DrawnSend Drawn)
{
    private const int LargestFile = 8 << 20;
    private const int MostContacts = 500_000;

    public static async Task<SendPlanning> DrawAsync(
        Guid handOff,
        SendRequest request,
        StoredDestination stored,
        DestinationKinds kinds,
        LibrarySnapshot library,
        DateTime now,
        GoldenRuleDb db,
        CancellationToken cancel
    )
    {
        var kind = kinds.Get(stored.Kind);
        if (!kind.SendsInBatches)
        {
            throw ProblemException.Invalid($"{stored.Name} does not send in batches: push to it.", "destination");
        }

        var (read, name, listed, unsubscribed) = request.File is { } file
            ? FromFile(file, request.FileName, library, cancel)
            : await FromListAsync(request.List, kind, kinds.Open(stored), cancel);
        var gone = await Unsubscribing.AmongAsync([.. listed.Select(r => r.Address)], db, cancel);
        var before = await SentBeforeAsync(handOff, db, cancel);
        var left = listed.Where(r => !gone.Contains(r.Address)).ToList();
        ImmutableArray<PlannedRecipient> recipients = [.. left.Where(r => !before.Contains(r.Address))];
        var (start, note) = request.Start.Length > 0 ? SendMoment.Read(request.Start, request.Zone) : new SendMoment(now, "");
        return new(
            name,
            recipients,
            new(
                recipients.Length,
                unsubscribed + listed.Count - left.Count,
                left.Count - recipients.Length,
                BatchPlan.Draw(request.Rule, recipients.Length, start < now ? now : start, request.Zone),
                note,
                read?.Charset,
                read?.Columns ?? [],
                read?.LeftOut ?? [],
                read?.Counts ?? ImmutableSortedDictionary<LeftOutReason, int>.Empty
            )
        );
    }

    private static (ReadRecipients?, string, List<PlannedRecipient>, int) FromFile(
        byte[] file,
        string name,
        LibrarySnapshot library,
        CancellationToken cancel
    )
    {
        if (file.Length > LargestFile)
        {
            throw ProblemException.TooLarge(
                $"The list has more than {LargestFile >> 20} MB. Keep one of that size on the sending platform and choose it there."
            );
        }

        var read = RecipientFile.Read(file, library.Audiences, cancel);
        var called = name.Trim() is { Length: > 0 and <= 120 } said ? said : "a file";
        return (read, called, [.. read.Recipients.Select(r => new PlannedRecipient(r.Address, "", r.Values))], 0);
    }

    private static async Task<(ReadRecipients?, string, List<PlannedRecipient>, int)> FromListAsync(
        string list,
        DestinationKind kind,
        OpenDestination to,
        CancellationToken cancel
    )
    {
        if (!kind.HasLists)
        {
            throw ProblemException.Invalid("Choose a file with the list.", "file");
        }

        try
        {
            var found = (await kind.ListsAsync(to, cancel)).FirstOrDefault(l => l.Id == list)
                ?? throw ProblemException.Invalid("There is no such list any more. Choose another one.", "list");
            var (all, unsubscribed) = (new List<PlannedRecipient>(), 0);
            var known = new HashSet<string>(StringComparer.OrdinalIgnoreCase);
            await foreach (var contact in kind.ContactsAsync(list, to, cancel))
            {
                if (contact.Unsubscribed)
                {
                    unsubscribed++;
                }
                else if (known.Add(contact.Address))
                {
                    all.Add(new(contact.Address, contact.Id, ImmutableSortedDictionary<string, string>.Empty));
                }

                if (all.Count > MostContacts)
                {
                    throw ProblemException.Invalid($"The list has more than {MostContacts:N0} contacts.", "list");
                }
            }

            return (null, found.Name, all, unsubscribed);
        }
        catch (DestinationException fault)
        {
            throw new ProblemException(502, "destination", "The destination did not answer", $"{to.Name}: {fault.Message}");
        }
    }

    // Whoever got this hand-off, or may have, does not get it again, whatever list they are on.
    private static async Task<HashSet<string>> SentBeforeAsync(Guid handOff, GoldenRuleDb db, CancellationToken cancel)
    {
        var found = await db
            .Recipients.Where(r =>
                db.Sends.Any(s => s.Id == r.SendId && s.HandOffId == handOff)
                && r.State != SendState.Refused
                && r.State != SendState.Unsubscribed
            )
            .Select(r => r.Address)
            .ToListAsync(cancel);
        return new(found, StringComparer.OrdinalIgnoreCase);
    }
}
