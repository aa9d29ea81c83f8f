using GoldenRule.Server.Destinations.Kinds;
using GoldenRule.Server.Sends;

namespace GoldenRule.Server.Destinations;

/// <summary>The sorts of destinations there are, and what works on what goes to them.</summary>
public static class DestinationSetup
{
    /// <param name="describing">True: there is no database, and nothing runs.</param>
    public static void AddDestinations(this IServiceCollection services, bool describing)
    {
        services.AddSingleton<DestinationKind, SendingPlatform>();
        services.AddSingleton<DestinationKind, SmtpBatches>();
        services.AddSingleton<DestinationKind, OutgoingWebhook>();
        services.AddSingleton<DestinationKind, Download>();
        services.AddSingleton<DestinationKinds>();
        services.AddSingleton<SendingClock>();
        services.AddSingleton<Unsubscribing>();
        services.AddScoped<PushDesk>();
        if (!describing)
        {
            services.AddHostedService<Pushing>();
            services.AddHostedService<BatchSending>();
            services.AddHostedService<EventFetching>();
            services.AddHostedService<RecipientRetention>();
        }
    }
}
