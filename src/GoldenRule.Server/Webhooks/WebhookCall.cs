using System.Globalization;
using System.Text;
using GoldenRule.Server.Destinations;
using GoldenRule.Server.Hosting;
using StandardWebhooks;

namespace GoldenRule.Server.Webhooks;

/// <summary>Says something to an address, signed as Standard Webhooks have it: id, timestamp, HMAC-SHA-256.</summary>
public static class WebhookCall
{
    /// <param name="id">The same however often it is said.</param>
    /// <param name="secrets">Each signs, so that one can be rolled without a gap.</param>
    /// <returns>What was answered, in words.</returns>
    /// <exception cref="DestinationException">It was not taken.</exception>
    public static async Task<string> SayAsync(
        OutboundConnections outbound,
        Uri address,
        Guid id,
        DateTimeOffset at,
        string body,
        IReadOnlyList<string> secrets,
        CancellationToken cancel
    )
    {
        var name = $"msg_{id:N}";
        using var request = new HttpRequestMessage(HttpMethod.Post, address)
        {
            Content = new StringContent(body, Encoding.UTF8, "application/json"),
        };
        request.Headers.Add("webhook-id", name);
        request.Headers.Add("webhook-timestamp", at.ToUnixTimeSeconds().ToString(CultureInfo.InvariantCulture));
        request.Headers.TryAddWithoutValidation("webhook-signature", Sign(name, at, body, secrets));
        try
        {
            using var answer = await outbound.Http.SendAsync(request, HttpCompletionOption.ResponseHeadersRead, cancel);
            return (int)answer.StatusCode switch
            {
                >= 200 and < 300 and var status => string.Create(CultureInfo.InvariantCulture, $"It answered {status}."),
                // Standard Webhooks: whoever answers so wants to hear nothing any more.
                410 => throw new DestinationException("It answered 410: it wants to be told nothing any more.", null),
                >= 300 and < 400 and var status => throw new DestinationException(
                    string.Create(CultureInfo.InvariantCulture, $"It answered {status}: it leads elsewhere, where nothing is sent."),
                    TimeSpan.Zero
                ),
                var status => throw new DestinationException(
                    string.Create(CultureInfo.InvariantCulture, $"It answered {status}."),
                    HttpFaults.RetryAfter(answer)
                ),
            };
        }
        catch (Exception fault)
            when (fault is HttpRequestException or IOException or TaskCanceledException && !cancel.IsCancellationRequested)
        {
            throw HttpFaults.Of(address.Host, fault, outbound.Longest);
        }
    }

    public static string Sign(string id, DateTimeOffset at, string body, IReadOnlyList<string> secrets) =>
        string.Join(' ', secrets.Select(secret => new StandardWebhook(secret).Sign(id, at, body)));
}
