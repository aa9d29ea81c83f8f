using System.Collections.Immutable;
using GoldenRule.Data;

namespace GoldenRule.Server.Destinations.Kinds;

/// <summary>A ZIP with everything, for whoever puts it into a platform by hand.</summary>
public sealed class Download : DestinationKind
{
    public override string Name => "download";

    public override string Title => "Download";

    public override string Explained => "A ZIP with the HTML, the text, the pictures and the record, to be put into a platform by hand.";

    public override ImmutableArray<PicturePolicy> Pictures => [PicturePolicy.Inside];

    public override Task<string> TryAsync(OpenDestination to, CancellationToken cancel) =>
        Task.FromResult("There is nothing to be reached.");

    public override Task<PushResult> PushAsync(Guid push, HandedOffEmail email, OpenDestination to, CancellationToken cancel) =>
        Task.FromResult(new PushResult("", "Ready to be downloaded."));
}
