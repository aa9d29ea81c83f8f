using GoldenRule.Core.Sending;
using GoldenRule.Server.Hosting;
using GoldenRule.Server.People;

namespace GoldenRule.Server.Destinations;

/// <summary>Destinations, webhooks and API tokens are set up by the same people.</summary>
public static class WhoSetsUp
{
    /// <summary>Whoever may not set up the sending side is refused before anything else is looked at.</summary>
    public static TRoutes OnlyWhoSetsUp<TRoutes>(this TRoutes routes)
        where TRoutes : IEndpointConventionBuilder =>
        routes.AddEndpointFilter(
            (context, next) =>
            {
                ProblemException.ThrowIfRefused(SendingPermissions.MaySetUp(context.HttpContext.User.Person()));
                return next(context);
            }
        );
}
