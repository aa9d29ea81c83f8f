namespace GoldenRule.Core.Documents;

public abstract partial record FieldValue
{
    /// <summary>HTML written by hand, as it was written; what leaves the house is made safe.</summary>
    public sealed record Code(string Html) : FieldValue
    {
        private SafeHtml? safe;

        private Code(Code from)
            : base(from)
        {
            Html = from.Html;
        }

        public override void Visit(FieldVisitor visitor, FieldPart part = default) => visitor.Code(this, part);

        public override FieldValue Map(FieldMap map, FieldPart part = default) => this;

        public override string Describe() => Html;

        /// <summary>What of it may leave the house; worked out once.</summary>
        internal SafeHtml Sanitised() => safe ??= new SafeHtml(Html);

        public bool Equals(Code? other) => other?.Html == Html;

        public override int GetHashCode() => Html.GetHashCode(StringComparison.Ordinal);
    }
}
