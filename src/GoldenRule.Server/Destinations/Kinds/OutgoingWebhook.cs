using System.Collections.Immutable;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.Webhooks;

namespace GoldenRule.Server.Destinations.Kinds;

/// <summary>An address that gets the whole email as JSON, signed by Standard Webhooks. For archives and programs of one's own.</summary>
public sealed class OutgoingWebhook(OutboundConnections outbound, TimeProvider clock) : DestinationKind
{
    public override string Name => "webhook";

    public override string Title => "Webhook";

    public override string Explained => "Gets the email with its record as JSON, signed. For an archive or a program of your own.";

    public override ImmutableArray<PicturePolicy> Pictures => [PicturePolicy.Linked, PicturePolicy.Inside];

    public override string AddressExample => "https://archive.example.org/emails";

    public override string SecretName => "Signing secret";

    public override void CheckAddress(string address) => outbound.ReadAddress(address, "address");

    public override void CheckSecret(string? secret)
    {
        if (secret is not null && !WebhookSecret.IsOne(secret))
        {
            throw ProblemException.Invalid(
                "The signing secret begins with whsec_ and goes on with 24 to 64 bytes in Base64, as Standard Webhooks have it.",
                "secret"
            );
        }
    }

    public override Task<string> TryAsync(OpenDestination to, CancellationToken cancel) =>
        SayAsync(Guid.CreateVersion7(), "test", new { Words = "Golden Rule tries this address." }, to, cancel);

    public override async Task<PushResult> PushAsync(Guid push, HandedOffEmail email, OpenDestination to, CancellationToken cancel)
    {
        var inside = to.Pictures == PicturePolicy.Inside;
        var told = new
        {
            email.Record,
            email.Subject,
            email.Html,
            email.Text,
            Pictures = email.Pictures.Select(p => new
            {
                Name = HandedOffEmail.NameOf(p.File),
                p.File.MediaType,
                p.File.Sha256,
                Content = inside ? Convert.ToBase64String(p.Content) : null,
            }),
        };
        return new("", await SayAsync(push, "hand-off.content", told, to, cancel));
    }

    private async Task<string> SayAsync<T>(Guid id, string kind, T data, OpenDestination to, CancellationToken cancel)
    {
        var now = clock.GetUtcNow();
        var body = DocumentJson.Write(
            new
            {
                Type = kind,
                Timestamp = now,
                Data = data,
            }
        );
        return await WebhookCall.SayAsync(outbound, new(to.Address), id, now, body, [to.Secret], cancel);
    }
}
