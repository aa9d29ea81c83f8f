using System.Collections.Immutable;
using System.Globalization;
using System.Net;
using System.Net.Http.Headers;
using System.Net.Http.Json;
using System.Runtime.CompilerServices;
using System.Text.Json;
using System.Text.Json.Serialization;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Sending;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.Destinations.Kinds;

/// <summary>A platform that keeps contacts and sends, over the HTTP interface that docs/formats.md describes.</summary>
public sealed class SendingPlatform(OutboundConnections outbound) : DestinationKind
{
    private const int PageSize = 1_000;
    private const int LongestPlace = 2_000;

    private static readonly JsonSerializerOptions Reading = new(JsonSerializerDefaults.Web)
    {
        RespectRequiredConstructorParameters = true,
        RespectNullableAnnotations = true,
        Converters = { new JsonStringEnumConverter(JsonNamingPolicy.KebabCaseLower) },
    };

    public override string Name => "platform";

    public override string Title => "Sending platform";

    public override string Explained => "Keeps the contacts, sends, and tells what came back. The email is there as a template.";

    public override ImmutableArray<PicturePolicy> Pictures => [PicturePolicy.Linked, PicturePolicy.Uploaded];

    public override string AddressExample => "https://platform.example.org/v1";

    public override string SecretName => "Access token";

    public override bool SendsInBatches => true;

    public override bool HasLists => true;

    public override bool TellsEvents => true;

    public override bool IsIdempotent => true;

    public override void CheckAddress(string address) => outbound.ReadAddress(address, "address");

    public override void CheckSecret(string? secret)
    {
        if (secret is "" || secret?.Any(c => c is <= ' ' or > '~') == true)
        {
            throw ProblemException.Invalid("The platform lets nobody in without its access token, which has no blanks.", "secret");
        }
    }

    public override async Task<string> TryAsync(OpenDestination to, CancellationToken cancel)
    {
        var account = await AskAsync<Account>(to, HttpMethod.Get, "account", null, cancel);
        return $"{HttpFaults.Shortened(account.Name)} answers, with {account.Contacts:N0} contacts.";
    }

    public override async Task<PushResult> PushAsync(Guid push, HandedOffEmail email, OpenDestination to, CancellationToken cancel)
    {
        var html = email.Html;
        if (to.Pictures == PicturePolicy.Uploaded)
        {
            var addresses = new Dictionary<string, string>(StringComparer.Ordinal);
            foreach (var (file, content) in email.Pictures)
            {
                using var body = new ByteArrayContent(content) { Headers = { ContentType = new MediaTypeHeaderValue(file.MediaType) } };
                var name = HandedOffEmail.NameOf(file);
                var there = await AskAsync<Uploaded>(to, HttpMethod.Put, $"pictures/{Uri.EscapeDataString(name)}", body, cancel);
                addresses[name] = Links.IsSafe(there.Address)
                    ? there.Address
                    : throw new DestinationException("The platform gave a picture an address that is none.", TimeSpan.Zero);
            }

            html = email.HtmlWith(addresses);
        }

        var record = email.Record;
        var template = new Template(
            $"{record.Name}, hand-off {record.Number}",
            email.Subject,
            html,
            email.Text,
            new Sender(record.Details.SenderName, record.Details.SenderAddress),
            record.Language
        );
        var taken = await AskAsync<Taken>(to, HttpMethod.Put, $"templates/{record.Id:N}", Json(template), cancel);
        var id = HttpFaults.Shortened(taken.Id);
        return new(id, $"Taken as template {id}, revision {taken.Revision}.");
    }

    public override Task WithdrawAsync(Guid handOff, OpenDestination to, CancellationToken cancel) =>
        AskAsync<Nothing>(to, HttpMethod.Delete, $"templates/{handOff:N}", null, cancel);

    public override async Task<ImmutableArray<ContactList>> ListsAsync(OpenDestination to, CancellationToken cancel) =>
        [.. (await AskAsync<Lists>(to, HttpMethod.Get, "lists", null, cancel)).All.Select(l => new ContactList(l.Id, l.Name, l.Contacts))];

    public override async IAsyncEnumerable<Contact> ContactsAsync(
        string list,
        OpenDestination to,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        for (string? next = ""; next is not null; )
        {
            var page = await AskAsync<Contacts>(
                to,
                HttpMethod.Get,
                $"lists/{Uri.EscapeDataString(list)}/contacts?limit={PageSize}&after={Uri.EscapeDataString(next)}",
                null,
                cancel
            );
            foreach (var one in page.All)
            {
                yield return new Contact(one.Id, one.Address, one.Unsubscribed);
            }

            // A platform that says the same for ever is not asked for ever.
            next = page.Next == next || page.All.IsEmpty ? null : page.Next;
        }
    }

    public override async IAsyncEnumerable<string> UnsubscribedAsync(OpenDestination to, [EnumeratorCancellation] CancellationToken cancel)
    {
        for (var (next, more) = ("", true); more; )
        {
            var page = await AskAsync<Unsubscribed>(to, HttpMethod.Get, $"unsubscribed?after={Uri.EscapeDataString(next)}", null, cancel);
            foreach (var address in page.Addresses)
            {
                yield return address;
            }

            (more, next) = (!page.Addresses.IsEmpty && page.Next != next, page.Next);
        }
    }

    public override async Task SendAsync(BatchWork batch, OpenDestination to, CancellationToken cancel)
    {
        // All or none: under one key the platform takes one list. What was claimed before this server ended is asked for again.
        if (batch.Recipients.IsEmpty || !await batch.ClaimAllAsync(cancel))
        {
            return;
        }

        var ids = await ContactIdsAsync(batch, to, cancel);
        var asked = new { template = batch.Email.Record.Id.ToString("N"), contacts = batch.Recipients.Select(r => ids[r.Position]) };
        var sent = await AskAsync<Sent>(to, HttpMethod.Post, "sends", Json(asked), cancel, batch.Key);
        var skipped = sent.Skipped.DistinctBy(s => s.Contact).ToDictionary(s => s.Contact, s => s.Reason, StringComparer.Ordinal);
        batch.OtherId = HttpFaults.Shortened(sent.Id);
        foreach (var alike in batch.Recipients.GroupBy(r => skipped.GetValueOrDefault(ids[r.Position]), r => r.Position))
        {
            var (state, answer) = alike.Key switch
            {
                null => (SendState.Sent, ""),
                "unsubscribed" => (SendState.Unsubscribed, ""),
                var reason => (SendState.Refused, $"The platform left them out: {reason}."),
            };
            await batch.SettleAsync([.. alike], state, answer);
        }
    }

    public override async IAsyncEnumerable<Bounce> BouncesAsync(
        Guid handOff,
        OpenDestination to,
        [EnumeratorCancellation] CancellationToken cancel
    )
    {
        for (var (next, more) = ("", true); more; )
        {
            var path = $"bounces?template={handOff:N}&after={Uri.EscapeDataString(next)}";
            var page = await AskAsync<Bounces>(to, HttpMethod.Get, path, null, cancel);
            foreach (var bounce in page.All)
            {
                yield return bounce with
                {
                    Reason = HttpFaults.Shortened(bounce.Reason),
                };
            }

            (more, next) = (!page.All.IsEmpty && page.Next != next, page.Next);
        }
    }

    public override async Task<EventPage?> EventsAsync(Guid handOff, string after, OpenDestination to, CancellationToken cancel)
    {
        var page = await AskAsync<Events>(
            to,
            HttpMethod.Get,
            $"events?template={handOff:N}&after={Uri.EscapeDataString(after)}",
            null,
            cancel
        );
        return page.Next.Length <= LongestPlace
            ? new(page.All, page.Next, page.More && page.Next != after)
            : throw new DestinationException("The platform answered something that cannot be read.", TimeSpan.Zero);
    }

    // Recipients of a file become contacts, with what the template asks of them.
    private async Task<Dictionary<int, string>> ContactIdsAsync(BatchWork batch, OpenDestination to, CancellationToken cancel)
    {
        var ids = batch.Recipients.Where(r => r.OtherId.Length > 0).ToDictionary(r => r.Position, r => r.OtherId);
        var unknown = batch.Recipients.Where(r => r.OtherId.Length == 0).ToList();
        if (unknown.Count > 0)
        {
            var given = unknown.Select(r => new
            {
                address = r.Address,
                attributes = batch.Email.AttributesOf(DocumentJson.Read<ImmutableSortedDictionary<string, string>>(r.Values)),
            });
            var made = await AskAsync<Contacts>(to, HttpMethod.Put, "contacts", Json(new { contacts = given }), cancel);
            var byAddress = made
                .All.DistinctBy(c => c.Address, StringComparer.OrdinalIgnoreCase)
                .ToDictionary(c => c.Address, c => c.Id, StringComparer.OrdinalIgnoreCase);
            foreach (var recipient in unknown)
            {
                ids[recipient.Position] = byAddress.GetValueOrDefault(recipient.Address)
                    ?? throw new DestinationException("The platform did not take all contacts that it was given.", TimeSpan.Zero);
            }
        }

        return ids;
    }

    private async Task<T> AskAsync<T>(
        OpenDestination to,
        HttpMethod method,
        string path,
        HttpContent? body,
        CancellationToken cancel,
        string? key = null
    )
    {
        using var request = new HttpRequestMessage(method, $"{to.Address.TrimEnd('/')}/{path}") { Content = body };
        request.Headers.Authorization = new AuthenticationHeaderValue("Bearer", to.Secret);
        if (key is not null)
        {
            request.Headers.Add("Idempotency-Key", key);
        }

        try
        {
            using var answer = await outbound.Http.SendAsync(request, cancel);
            if (!answer.IsSuccessStatusCode)
            {
                throw await RefusedAsync(answer, cancel);
            }

            return answer.StatusCode == HttpStatusCode.NoContent
                ? default!
                : await answer.Content.ReadFromJsonAsync<T>(Reading, cancel) ?? throw new JsonException("It answered nothing.");
        }
        catch (Exception fault) when (fault is JsonException or NotSupportedException)
        {
            throw new DestinationException("The platform answered something that cannot be read.", TimeSpan.Zero, fault);
        }
        catch (Exception fault)
            when (fault is HttpRequestException or IOException or TaskCanceledException && !cancel.IsCancellationRequested)
        {
            throw HttpFaults.Of("The platform", fault, outbound.Longest);
        }
    }

    private static async Task<DestinationException> RefusedAsync(HttpResponseMessage answer, CancellationToken cancel)
    {
        var said = await HttpFaults.WordsAsync(answer, cancel);
        return (int)answer.StatusCode switch
        {
            401 or 403 => new("The platform does not let Golden Rule in: the access token is not right.", null),
            404 or 409 or 422 or 400 or 410 or 413 => new($"The platform refused it: {said}", null),
            429 => new("The platform asks to wait.", HttpFaults.RetryAfter(answer)),
            var status => new(
                string.Create(CultureInfo.InvariantCulture, $"The platform answered {status}."),
                HttpFaults.RetryAfter(answer)
            ),
        };
    }

    private static JsonContent Json<T>(T what) => JsonContent.Create(what, options: Reading);

    private sealed record Account(string Name, int Contacts);

    private sealed record Uploaded(string Address);

    private sealed record Sender(string Name, string Address);

    private sealed record Template(string Name, string Subject, string Html, string Text, Sender Sender, string Language);

    private sealed record Taken(string Id, int Revision);

    private sealed record Nothing;

    private sealed record PlatformList(string Id, string Name, int Contacts);

    private sealed record Lists
    {
        [JsonPropertyName("lists")]
        public required ImmutableArray<PlatformList> All { get; init; }
    }

    private sealed record PlatformContact(string Id, string Address, bool Unsubscribed);

    private sealed record Contacts
    {
        [JsonPropertyName("contacts")]
        public required ImmutableArray<PlatformContact> All { get; init; }

        public string? Next { get; init; }
    }

    private sealed record Unsubscribed(ImmutableArray<string> Addresses, string Next);

    private sealed record Bounces
    {
        [JsonPropertyName("bounces")]
        public required ImmutableArray<Bounce> All { get; init; }

        public required string Next { get; init; }
    }

    private sealed record Skipped(string Contact, string Reason);

    private sealed record Sent(string Id, int Accepted, ImmutableArray<Skipped> Skipped);

    private sealed record Events
    {
        [JsonPropertyName("events")]
        public required ImmutableArray<ReaderEvent> All { get; init; }

        public required string Next { get; init; }

        public bool More { get; init; }
    }
}
