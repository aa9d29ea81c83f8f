using System.Globalization;
using System.Text.Json.Serialization;

namespace GoldenRule.Core.Documents;

public abstract partial record FieldValue
{
    /// <summary>A stretch of time at one place on earth.</summary>
    /// <param name="Start">Local date and time, ISO 8601 without offset: "2027-03-02T10:40". Empty: not set yet.</param>
    /// <param name="End">The same; empty: no end is given.</param>
    /// <param name="Zone">IANA time zone, "Europe/London" for example.</param>
    public sealed record Moment(string Start, string End, string Zone) : FieldValue
    {
        [JsonIgnore]
        public DateTime? Starts => Read(Start);

        [JsonIgnore]
        public DateTime? Ends => Read(End);

        public override void Visit(FieldVisitor visitor, FieldPart part = default) => visitor.Moment(this, part);

        public override FieldValue Map(FieldMap map, FieldPart part = default) => this;

        public override string Describe() => End.Length > 0 ? $"{Start} to {End}" : Start;

        private static DateTime? Read(string text) =>
            DateTime.TryParseExact(
                text,
                ["yyyy-MM-dd'T'HH:mm", "yyyy-MM-dd"],
                CultureInfo.InvariantCulture,
                DateTimeStyles.None,
                out var at
            )
                ? at
                : null;
    }
}
