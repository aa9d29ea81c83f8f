using System.Collections.Immutable;
using System.Threading;
using GoldenRule.Core.Compiling;
using GoldenRule.Core.Documents;
using GoldenRule.Core.Edits;
using GoldenRule.Core.Governance;

namespace GoldenRule.Core.Interchange;

/// <summary>
/// A whole copy document laid out onto an email: a heading begins a section, each section goes to the next row that
/// takes words, and where a zone has room the row is placed again until every section has one.
/// </summary>
public static class CopyLayout
{
    /// <summary>Characters up to which a line of plain text may be a heading (common practice, no source).</summary>
    private const int LongestHeading = 80;

    private static readonly (string Field, string[] Marks)[] Details =
    [
        ("subject", ["subject:", "subject line:"]),
        ("preheader", ["preheader:", "preview:", "preview text:"]),
    ];

    public static CopyPlan Plan(
        ImmutableArray<PastedPart> copy,
        OpenDocument.OfEmail document,
        Person person,
        Func<string> newId,
        CancellationToken cancel = default
    )
    {
        var details = copy.Select(p => (Part: p, Field: DetailOf(p))).Where(d => d.Field is not null).ToList();
        var sections = Sections([.. copy.Except(details.Select(d => d.Part))]);
        var (places, rows, inserts) = WithRoom(document, person, sections.Count, newId);
        var plan = new Planned(places);
        foreach (var (part, field) in details)
        {
            var text = part.Paragraph.PlainText;
            plan.Put(
                places.Find($"details/{field}")!,
                new FieldValue.Words(text[(text.IndexOf(':', StringComparison.Ordinal) + 1)..].Trim())
            );
        }

        for (var i = 0; i < sections.Count; i++)
        {
            cancel.ThrowIfCancellationRequested();
            if (i < rows.Count)
            {
                Lay(sections[i], rows[i], plan);
            }
            else
            {
                plan.Left.Add(sections[i].ToString());
            }
        }

        return new CopyPlan([.. plan.Changes], [.. inserts, .. places.Edits(), .. plan.Links], [.. plan.Left.Where(l => l.Length > 0)]);
    }

    private sealed record Section(string? Heading, List<Paragraph> Body, List<(string Words, string Href)> Links)
    {
        public override string ToString() =>
            string.Join(
                '\n',
                Body.Select(p => p.PlainText)
                    .Concat(Links.Select(l => $"{l.Words} {l.Href}"))
                    .Prepend(Heading ?? "")
                    .Where(t => t.Length > 0)
            );
    }

    /// <summary>What a row takes of a section.</summary>
    private sealed record Seat(CopyPlace? Headline, List<CopyPlace> Bodies, List<(CopyPlace Words, string Link)> Links);

    private sealed class Planned(CopyPlaces places)
    {
        public List<CopyChange> Changes { get; } = [];

        public List<Edit> Links { get; } = [];

        public List<string> Left { get; } = [];

        public void Put(CopyPlace place, FieldValue words)
        {
            var (now, next) = (CopyDeck.Text(place.Words), CopyDeck.Text(words));
            if (place.Allowed is Decision.Refused refused)
            {
                Changes.Add(new CopyChange(place.Key, place.Where, now, next, CopyFate.Refused, refused.Reason));
                return;
            }

            var over = place.Broken(words);
            Changes.Add(
                new CopyChange(
                    place.Key,
                    place.Where,
                    now,
                    next,
                    over switch
                    {
                        _ when now == next => CopyFate.Same,
                        null => CopyFate.Changed,
                        _ => CopyFate.Over,
                    },
                    over is null ? null : $"Longer than its limit: {over}."
                )
            );
            places.Write(place, words);
        }
    }

    private static string? DetailOf(PastedPart part) =>
        Details
            .Where(d => d.Marks.Any(m => part.Paragraph.PlainText.StartsWith(m, StringComparison.OrdinalIgnoreCase)))
            .Select(d => d.Field)
            .FirstOrDefault();

    private static List<Section> Sections(ImmutableArray<PastedPart> copy)
    {
        var marked = copy.Any(p => p.Heading > 0);
        var sections = new List<Section>();
        for (var i = 0; i < copy.Length; i++)
        {
            var part = copy[i];
            if (marked ? part.Heading > 0 : IsHeading(part, i + 1 < copy.Length ? copy[i + 1] : null))
            {
                sections.Add(new Section(part.Paragraph.PlainText.ReplaceLineEndings(" "), [], []));
                continue;
            }

            if (sections.Count == 0)
            {
                sections.Add(new Section(null, [], []));
            }

            if (LinkOf(part.Paragraph) is { } link)
            {
                sections[^1].Links.Add(link);
            }
            else
            {
                sections[^1].Body.Add(part.Paragraph);
            }
        }

        return sections;
    }

    // In plain text a short line without a full stop, with something below it, is a heading.
    private static bool IsHeading(PastedPart part, PastedPart? next)
    {
        var text = part.Paragraph.PlainText;
        return next is not null
            && part.Paragraph.List == ListStyle.None
            && text.Length is > 0 and <= LongestHeading
            && text[^1] is not ('.' or ':' or ';' or ',' or '…')
            && !text.Contains('\n', StringComparison.Ordinal)
            && LinkOf(part.Paragraph) is null;
    }

    /// <summary>A paragraph that is nothing but a link: a button, where there is one. "Book now: https://…" is one too.</summary>
    private static (string Words, string Href)? LinkOf(Paragraph paragraph)
    {
        var linked = paragraph.Runs.Where(r => r.Href is not null).ToList();
        if (paragraph.List != ListStyle.None || linked.Count == 0 || linked.Any(r => r.Href != linked[0].Href))
        {
            return null;
        }

        var before = string.Concat(paragraph.Runs.TakeWhile(r => r.Href is null).Select(r => r.Text)).Trim();
        var after = string.Concat(paragraph.Runs.Reverse().TakeWhile(r => r.Href is null).Select(r => r.Text)).Trim();
        var words = string.Concat(linked.Select(r => r.Text)).Trim();
        return (before, after) switch
        {
            ("", "") => (words, linked[0].Href!),
            ({ Length: <= 40 }, "") when before[^1] is ':' or '–' or '-' && words == linked[0].Href => (
                before.TrimEnd(':', '–', '-', ' '),
                linked[0].Href!
            ),
            _ => null,
        };
    }

    /// <summary>Where words go, once as many rows are placed again as there are sections more than rows that take words.</summary>
    private static (CopyPlaces Places, List<Seat> Seats, List<Edit> Inserts) WithRoom(
        OpenDocument.OfEmail document,
        Person person,
        int sections,
        Func<string> newId
    )
    {
        var inserts = new List<Edit>();
        while (true)
        {
            var places = new CopyPlaces(document, person);
            var seats = Seats(document, places);
            var seated = seats.Select(s => (s.Headline ?? s.Bodies[0]).Row!).ToList();
            var insert =
                seats.Count >= sections
                    ? null
                    : document
                        .Order.Template.Order.OfType<Zone>()
                        .Select(zone =>
                            seated.LastOrDefault(r => r.Zone?.Id == zone.Id && !r.IsOwn) is { } last
                                ? new InsertRow(
                                    zone.Id,
                                    document.Email.FindInZones(last.Id)!.Value.Index + 1,
                                    new PlacedRow
                                    {
                                        Id = newId(),
                                        Master = last.Placed.Master,
                                        Release = last.Placed.Release,
                                    }
                                )
                                : null
                        )
                        .FirstOrDefault(edit => edit is not null && Governor.Decide(person, edit, document) is Decision.Allowed);
            if (insert is null)
            {
                return (places, seats, inserts);
            }

            inserts.Add(insert);
            var email = (Email)insert.Apply(document.Email);
            document = document with { Email = email, Document = email, Order = RunningOrder.From(email, document.Masters) };
        }
    }

    private static List<Seat> Seats(OpenDocument.OfEmail document, CopyPlaces places)
    {
        var seats = new List<Seat>();
        foreach (
            var row in places
                .All.Where(p => p.Row is not null && p.Allowed is Decision.Allowed)
                .GroupBy(p => p.Row!.Id, StringComparer.Ordinal)
        )
        {
            // What stands the same in every email, and what someone else pays for, is no place for a section.
            if (document.Masters.RowKinds.PurposeOf(row.First().Row!.Master.RowKind) != RowPurpose.Message)
            {
                continue;
            }

            var links = row.Select(p => (Words: p, Link: LinkField(p)))
                .Where(l => l.Link is not null)
                .Select(l => (l.Words, l.Link!))
                .ToList();
            var bodies = row.Where(p => p.Words is FieldValue.Prose && p.Key.Split('/').Length == 3).ToList();
            var headline = row.FirstOrDefault(IsHeadline);
            if (headline is not null || bodies.Count > 0)
            {
                seats.Add(new Seat(headline, bodies, links));
            }
        }

        return seats;
    }

    private static bool IsHeadline(CopyPlace place) =>
        place.Words is FieldValue.Words && BlockKinds.For(place.Block!).FieldAt(Field(place))?.IsHeadline == true;

    // The field with the address that goes with the words of a link.
    private static string? LinkField(CopyPlace place) =>
        BlockKinds.For(place.Block!) is { Group: not KindGroup.Service } kind ? kind.FieldAt(Field(place))?.LinkField : null;

    private static string Field(CopyPlace place) => place.Key.Split('/')[2];

    private static void Lay(Section section, Seat seat, Planned plan)
    {
        var body = section.Body.ToList();
        if (section.Heading is { } heading)
        {
            if (seat.Headline is not null)
            {
                plan.Put(seat.Headline, new FieldValue.Words(heading));
            }
            else
            {
                body.Insert(0, new Paragraph { Runs = [new Run { Text = heading, Bold = true }] });
            }
        }

        foreach (var (link, at) in section.Links.Select((l, i) => (l, i)))
        {
            if (at < seat.Links.Count)
            {
                var (words, field) = seat.Links[at];
                plan.Put(words, new FieldValue.Words(link.Words));
                plan.Links.Add(new SetFill(words.Row!.Id, words.Block!.Id, field, new FieldValue.Link(link.Href)));
            }
            else
            {
                body.Add(new Paragraph { Runs = [new Run { Text = link.Words, Href = link.Href }] });
            }
        }

        if (body.Count > 0 && seat.Bodies.Count == 0)
        {
            plan.Left.Add(string.Join('\n', body.Select(p => p.PlainText)));
            return;
        }

        // A paragraph for each text, and what is left over for the last.
        for (var i = 0; i < seat.Bodies.Count && body.Count > 0; i++)
        {
            var take = i == seat.Bodies.Count - 1 ? body.Count : 1;
            plan.Put(seat.Bodies[i], new FieldValue.Prose(new RichText { Paragraphs = [.. body.Take(take)] }));
            body.RemoveRange(0, take);
        }
    }
}
