using System.Buffers.Binary;
using System.Net.Http.Json;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.Data;
using GoldenRule.Server.Thumbnails;
using Microsoft.AspNetCore.Mvc.Testing;

namespace GoldenRule.Server.Tests;

/// <summary>Small pictures of documents: drawn once for what they show, for those who may see it, and never another's.</summary>
public sealed class ThumbnailTests(Running server) : IClassFixture<Running>
{
    [Fact]
    public async Task Documents_are_drawn_once_for_what_they_show()
    {
        var author = await server.As("imran");
        var desk = await server.NewEmail(author);
        var (row, template) = server.Query(db =>
            (
                db.Documents.First(d => d.Kind == DocumentKind.Row && d.Name == "Footer").Id,
                db.Documents.First(d => d.Kind == DocumentKind.Template && d.Name == "Special train").Id
            )
        );
        ThumbnailSubject[] subjects =
        [
            new(DocumentKind.Email, desk.Id),
            new(DocumentKind.Email, desk.Id, Screen: ThumbnailScreen.Phone),
            new(DocumentKind.Template, template),
            new(DocumentKind.Row, row),
        ];
        Assert.All(await FindAsync(author, subjects), t => Assert.Equal((null, true), (t.Id, t.Coming)));
        var drawn = await DrawnAsync(author, subjects);
        // 640 and 375 CSS pixels by 800, at 0.6; a footer is less tall.
        Assert.Equal([(384, 480), (225, 480), (384, 480)], drawn[..3].Select(t => (t.Width, t.Height)));
        Assert.Equal(384, drawn[3].Width);
        Assert.InRange(drawn[3].Height, 40, 200);
        foreach (var one in drawn)
        {
            var answer = await author.GetAsync($"/api/thumbnails/{one.Id}");
            Assert.Equal("max-age=31536000, private, immutable", answer.Headers.CacheControl!.ToString());
            Assert.Equal((one.Width, one.Height), SizeOfWebP(await answer.Content.ReadAsByteArrayAsync()));
        }

        // An email that is the same word for word looks the same, and its picture is there at once.
        var copy = new
        {
            id = Guid.CreateVersion7(),
            template,
            name = desk.Name,
        };
        (await author.PostAsJsonAsync("/api/emails", copy)).EnsureSuccessStatusCode();
        Assert.Equal(drawn[0].Id, (await FindAsync(author, new ThumbnailSubject(DocumentKind.Email, copy.id)))[0].Id);
        (await author.Edit(copy.id, 0, Asking.SetWords("hero", "headline", "Another headline"))).EnsureSuccessStatusCode();
        Assert.NotEqual(drawn[0].Id, (await DrawnAsync(author, new ThumbnailSubject(DocumentKind.Email, copy.id)))[0].Id);
        Assert.Equal(drawn[0].Id, (await FindAsync(author, subjects[0]))[0].Id);
        Assert.Equal(5, server.Query(db => db.Thumbnails.Count()));
    }

    [Fact]
    public async Task What_someone_may_not_see_has_no_picture_for_them()
    {
        var (author, designer) = (await server.As("imran"), await server.As("dana"));
        var row = server.Query(db => db.Documents.First(d => d.Kind == DocumentKind.Row && d.Name == "Two facts").Id);
        ThumbnailSubject[] subjects = [new(DocumentKind.Row, row), new(DocumentKind.Row, row, Draft: true)];
        var seen = await FindAsync(author, subjects);
        // Released, it is everyone's; a draft is for those who make it.
        Assert.Equal([true, false], seen.Select(t => t.Coming || t.Id is not null));
        Assert.All(await FindAsync(designer, subjects), t => Assert.True(t.Coming || t.Id is not null));
        server.Sql($"update documents set private = true where id = '{row}'");
        Assert.All(await FindAsync(author, subjects), t => Assert.Equal((null, false), (t.Id, t.Coming)));
        // A kind that is not the document's, and a document that is not there.
        Assert.All(
            await FindAsync(
                designer,
                new(DocumentKind.Template, row),
                new(DocumentKind.Email, row),
                new(DocumentKind.Email, Guid.NewGuid())
            ),
            t => Assert.Equal((null, false), (t.Id, t.Coming))
        );
        await (
            await author.PostAsJsonAsync("/api/thumbnails", new { subjects = Enumerable.Repeat(subjects[0], 101) }, DocumentJson.Options)
        ).Problem(422, "invalid");
        await (await author.GetAsync($"/api/thumbnails/{new string('0', 64)}")).Problem(404, "not-found");
    }

    [Fact]
    public async Task A_picture_replaced_meanwhile_is_in_the_next_one()
    {
        var lead = await server.As("ruth");
        var email = new ThumbnailSubject(DocumentKind.Email, server.EmailId("March"));
        _ = await FindAsync(lead, email);
        var (old, other) = server.Query(db =>
            (
                db.References.First(r => r.DocumentId == email.Id && r.Kind == Core.Releases.ReferenceKind.Picture).Key,
                db.Pictures.OrderByDescending(p => p.Id).First().Id
            )
        );
        // While it is drawn.
        server.Sql($"update pictures set replaced_by = '{other}' where id = '{old}'");
        var now = (await DrawnAsync(lead, email))[0].Id;
        server.Sql($"update pictures set replaced_by = null where id = '{old}'");
        Assert.NotEqual(now, (await DrawnAsync(lead, email))[0].Id);
    }

    [Fact]
    public async Task Where_nothing_can_be_drawn_it_is_not_asked_for_for_ever()
    {
        await using var bare = server.Second(("Chromium:Path", "/nonexistent/chromium"));
        var author = await Running.SignIn(bare.CreateClient(), "imran");
        var email = new ThumbnailSubject(DocumentKind.Email, server.EmailId("Winter steam gala"));
        Thumbnail found;
        do
        {
            found = (await FindAsync(author, email))[0];
            await Task.Delay(50);
        } while (found.Coming);

        Assert.Null(found.Id);
        // Another server over the same database can.
        Assert.NotNull((await DrawnAsync(await server.As("imran"), email))[0].Id);
        Assert.NotNull((await FindAsync(author, email))[0].Id);
    }

    private static async Task<Thumbnail[]> FindAsync(HttpClient client, params ThumbnailSubject[] subjects) =>
        await (await client.PostAsJsonAsync("/api/thumbnails", new { subjects }, DocumentJson.Options)).Read<Thumbnail[]>();

    private static async Task<Thumbnail[]> DrawnAsync(HttpClient client, params ThumbnailSubject[] subjects)
    {
        while (true)
        {
            var found = await FindAsync(client, subjects);
            if (!found.Any(t => t.Coming))
            {
                Assert.DoesNotContain(found, t => t.Id is null);
                return found;
            }

            await Task.Delay(100);
        }
    }

    // RFC 9649: a RIFF file whose size stands in its extended header as two numbers of 24 bits, less one (2.7), where there is one,
    // else in its key frame as two of 14 bits (2.5).
    private static (int Width, int Height) SizeOfWebP(ReadOnlySpan<byte> file)
    {
        Assert.Equal("RIFF", Encoding.ASCII.GetString(file[..4]));
        var frame = file[20..];
        if (file[8..16].SequenceEqual("WEBPVP8X"u8))
        {
            return (1 + frame[4] + (frame[5] << 8) + (frame[6] << 16), 1 + frame[7] + (frame[8] << 8) + (frame[9] << 16));
        }

        Assert.Equal("WEBPVP8 ", Encoding.ASCII.GetString(file[8..16]));
        Assert.Equal([0x9D, 0x01, 0x2A], frame[3..6].ToArray());
        return (BinaryPrimitives.ReadUInt16LittleEndian(frame[6..]) & 0x3FFF, BinaryPrimitives.ReadUInt16LittleEndian(frame[8..]) & 0x3FFF);
    }
}
