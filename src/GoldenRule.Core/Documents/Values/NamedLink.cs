namespace GoldenRule.Core.Documents;

/// <summary>A link with the words it is shown by.</summary>
public sealed record NamedLink(string Name, string Href);
