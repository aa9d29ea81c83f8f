using System.Net;
using System.Net.Http.Json;
using System.Text;
using GoldenRule.Core.Documents;
using GoldenRule.PictureWorker;
using GoldenRule.Server.Editing;
using GoldenRule.Server.Pictures;
using MetadataExtractor;
using MetadataExtractor.Formats.Exif;
using SkiaSharp;

namespace GoldenRule.Server.Tests;

/// <summary>Pictures as they come in, what they are made into, and what is done with them in the library.</summary>
public sealed class PictureTests(Running server) : IClassFixture<Running>
{
    [Fact]
    public async Task Pictures_are_judged_by_content_stripped_made_small_and_kept_once()
    {
        var author = await server.As("imran");
        var photo = Jpeg(2000, 1000);
        var marked = WithComment(photo, "secret place");
        Assert.Contains("secret place", Encoding.Latin1.GetString(marked), StringComparison.Ordinal);
        var added = await Add(author, marked, "photo.gif");
        Assert.Equal((1280, 640), (added.Width, added.Height));
        Assert.EndsWith(".jpg", added.Address, StringComparison.Ordinal);
        Assert.Equal(added.Id, (await Add(author, photo, "again.jpg")).Id);
        Assert.Equal(1, server.Query(db => db.Pictures.Count(p => p.Id == added.Id)));

        // Mail clients fetch it without signing in.
        var file = await server.CreateClient().GetAsync(added.Address);
        Assert.Equal("image/jpeg", file.Content.Headers.ContentType?.MediaType);
        Assert.DoesNotContain(
            "secret place",
            Encoding.Latin1.GetString(await file.Content.ReadAsByteArrayAsync()),
            StringComparison.Ordinal
        );
        Assert.Equal(HttpStatusCode.NotFound, (await server.CreateClient().GetAsync($"/pictures/{added.Id}.png")).StatusCode);
    }

    [Theory]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg'/>", "shows nothing")]
    [InlineData("<html><script>alert(1)</script>", "is a web page")]
    [InlineData("%PDF-1.7", "is a PDF")]
    [InlineData("neither one thing", "is no picture")]
    [InlineData("", "empty")]
    public async Task A_disguised_file_is_refused_with_its_reason(string content, string said)
    {
        var author = await server.As("imran");
        using var file = ReachingTests.Upload(Encoding.UTF8.GetBytes(content), "harmless.png");
        var problem = await (await author.PostAsync("/api/pictures", file)).Problem(422, "picture");
        Assert.Contains(said, (string?)problem["detail"], StringComparison.Ordinal);
    }

    [Fact]
    public async Task A_picture_that_is_too_heavy_or_would_burst_is_refused()
    {
        var author = await server.As("imran");
        using var heavy = ReachingTests.Upload(new byte[(5 * 1024 * 1024) + 1], "heavy.png");
        await (await author.PostAsync("/api/pictures", heavy)).Problem(413, "too-large");
        using var burst = ReachingTests.Upload(BombHeader(60_000, 60_000), "burst.png");
        Assert.Contains(
            "pixels",
            (string?)(await (await author.PostAsync("/api/pictures", burst)).Problem(422, "picture"))["detail"],
            StringComparison.Ordinal
        );
    }

    /// <summary>
    /// A camera's file: EXIF 2.32 with a place and "turn me right". MetadataExtractor, which is no part of this project, reads
    /// both.
    /// </summary>
    [Fact]
    public async Task Where_a_photograph_was_taken_is_left_behind_and_it_stands_upright()
    {
        var photo = WithExif(Jpeg(800, 600, left: SKColors.Crimson));
        var before = ImageMetadataReader.ReadMetadata(new MemoryStream(photo));
        Assert.Equal(54.4609, before.OfType<GpsDirectory>().Single().GetGeoLocation()!.Latitude, 3);

        var added = await Add(await server.As("imran"), photo, "holiday.jpg");
        // Orientation 6: the row of the file that is first is seen at the right.
        Assert.Equal((600, 800), (added.Width, added.Height));
        foreach (var file in added.Files.Append(added.PhoneCrop!))
        {
            var bytes = await server.CreateClient().GetByteArrayAsync(file.Address);
            var after = ImageMetadataReader.ReadMetadata(new MemoryStream(bytes));
            Assert.Empty(after.OfType<GpsDirectory>());
            Assert.Empty(after.OfType<ExifIfd0Directory>());
            Assert.Equal(
                (file.Width, file.Height, file.Bytes),
                (SKBitmap.DecodeBounds(bytes).Width, SKBitmap.DecodeBounds(bytes).Height, bytes.Length)
            );
        }

        using var upright = SKBitmap.Decode(await server.CreateClient().GetByteArrayAsync(added.Address));
        // What was at the left is now at the top.
        Assert.True(upright.GetPixel(300, 40).Red > 180 && upright.GetPixel(300, 760).Red < 80);
    }

    /// <summary>EXIF 2.32 (as TIFF 6.0), tag 0x0112: where the file's first row and its first column are seen.</summary>
    [Theory]
    [InlineData(1, "top", "left")]
    [InlineData(2, "top", "right")]
    [InlineData(3, "bottom", "right")]
    [InlineData(4, "bottom", "left")]
    [InlineData(5, "left", "top")]
    [InlineData(6, "right", "top")]
    [InlineData(7, "right", "bottom")]
    [InlineData(8, "left", "bottom")]
    public void Whichever_way_a_camera_was_held_the_picture_stands_upright(int orientation, string firstRow, string firstColumn)
    {
        var sides = new Dictionary<string, string>(StringComparer.Ordinal)
        {
            ["top"] = "bottom",
            ["bottom"] = "top",
            ["left"] = "right",
            ["right"] = "left",
        };
        var expected = new Dictionary<(string, string), SKColor>
        {
            [Corner(firstRow, firstColumn)] = SKColors.Red,
            [Corner(firstRow, sides[firstColumn])] = SKColors.Lime,
            [Corner(sides[firstRow], firstColumn)] = SKColors.Blue,
            [Corner(sides[firstRow], sides[firstColumn])] = SKColors.White,
        };
        using var quarters = new SKBitmap(400, 300);
        using (var canvas = new SKCanvas(quarters))
        {
            foreach (
                var (colour, x, y) in new[]
                {
                    (SKColors.Red, 0, 0),
                    (SKColors.Lime, 200, 0),
                    (SKColors.Blue, 0, 150),
                    (SKColors.White, 200, 150),
                }
            )
            {
                using var paint = new SKPaint { Color = colour };
                canvas.DrawRect(x, y, 200, 150, paint);
            }
        }

        using var data = quarters.Encode(SKEncodedImageFormat.Jpeg, 95);
        using var source = PictureSource.Open(WithExif(data.ToArray(), orientation), "held.jpg");
        var seen = source.Bitmap;
        Assert.Equal(orientation < 5 ? (400, 300) : (300, 400), (seen.Width, seen.Height));
        foreach (var ((vertical, horizontal), colour) in expected)
        {
            var found = seen.GetPixel(horizontal == "left" ? 20 : seen.Width - 20, vertical == "top" ? 20 : seen.Height - 20);
            Assert.True(
                Math.Abs(found.Red - colour.Red) + Math.Abs(found.Green - colour.Green) + Math.Abs(found.Blue - colour.Blue) < 30,
                $"{vertical} {horizontal} is {found}, not {colour}"
            );
        }

        static (string Vertical, string Horizontal) Corner(string one, string other) =>
            one is "top" or "bottom" ? (one, other) : (other, one);
    }

    [Fact]
    public async Task Sizes_are_twice_what_is_shown_and_each_lighter_than_the_one_before()
    {
        var added = await Add(await server.As("imran"), Jpeg(2400, 1000, SKColors.Gold), "wide.jpg");
        Assert.Equal([1280, 960, 640, 320], added.Files.Select(f => f.Width));
        Assert.All(added.Files.Zip(added.Files.Skip(1)), f => Assert.True(f.Second.Bytes < f.First.Bytes));
        Assert.Equal((750, 563), (added.PhoneCrop!.Width, added.PhoneCrop.Height));
        Assert.Null((await Add(await server.As("imran"), Jpeg(500, 500), "square.jpg")).PhoneCrop);
    }

    [Fact]
    public async Task The_phone_crop_keeps_the_focal_point_in_sight()
    {
        var author = await server.As("imran");
        // Red in the left quarter, sea green elsewhere.
        var added = await Add(author, Jpeg(1200, 400, SKColors.Crimson), "left.jpg");
        Assert.Equal(SKColors.SeaGreen.Green, (await Middle(added)).Green, 12.0);
        var moved = await (await author.PatchAsJsonAsync($"/api/pictures/{added.Id}", new { focalX = 0.05 })).Read<PictureEntry>();
        Assert.NotEqual(added.PhoneCrop!.Address, moved.PhoneCrop!.Address);
        Assert.Equal(SKColors.Crimson.Red, (await Middle(moved)).Red, 12.0);
        // What was sent with the former crop still finds it.
        Assert.Equal(HttpStatusCode.OK, (await server.CreateClient().GetAsync(added.PhoneCrop.Address)).StatusCode);

        async Task<SKColor> Middle(PictureEntry picture)
        {
            using var crop = SKBitmap.Decode(await server.CreateClient().GetByteArrayAsync(picture.PhoneCrop!.Address));
            return crop.GetPixel(crop.Width / 4, crop.Height / 2);
        }
    }

    [Fact]
    public async Task An_svg_is_a_source_only_and_nothing_outside_it_is_drawn()
    {
        const string Svg = """
            <svg xmlns="http://www.w3.org/2000/svg" xmlns:xlink="http://www.w3.org/1999/xlink" viewBox="0 0 200 100">
              <script>alert(1)</script><image xlink:href="file:///etc/hostname" width="200" height="100"/>
              <rect width="200" height="100" fill="#1f3a34"/><circle id="c" cx="40" cy="50" r="20" fill="#f4e9d2"/><use href="#c" x="100"/>
            </svg>
            """;
        var added = await Add(await server.As("imran"), Encoding.UTF8.GetBytes(Svg), "logo.svg");
        Assert.Equal((1280, 640), (added.Width, added.Height));
        Assert.EndsWith(".png", added.Address, StringComparison.Ordinal);
        using var drawn = SKBitmap.Decode(await server.CreateClient().GetByteArrayAsync(added.Address));
        Assert.Equal("#ff1f3a34", drawn.GetPixel(5, 5).ToString());
        Assert.Equal("#fff4e9d2", drawn.GetPixel(1280 * 140 / 200, 320).ToString());
    }

    [Theory]
    [InlineData(
        "<!DOCTYPE svg [<!ENTITY x \"xxxxxxxxxx\">]><svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 1 1'><text>&x;</text></svg>"
    )]
    [InlineData("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><g id='a'><use href='#a'/></g></svg>")]
    [InlineData(
        "<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><use href='#b'/><g id='b'><use "
            + "href='#a'/></g><g id='a'><use href='#b'/></g></svg>"
    )]
    public async Task An_svg_that_would_not_end_is_refused(string svg)
    {
        using var file = ReachingTests.Upload(Encoding.UTF8.GetBytes(svg), "bomb.svg");
        await (await (await server.As("imran")).PostAsync("/api/pictures", file)).Problem(422, "picture");
    }

    [Fact]
    public async Task An_svg_that_multiplies_itself_is_refused()
    {
        var svg = new StringBuilder("<svg xmlns='http://www.w3.org/2000/svg' viewBox='0 0 9 9'><rect id='g0' width='1' height='1'/>");
        for (var i = 1; i < 12; i++)
        {
            svg.Append($"<g id='g{i}'>").Insert(svg.Length, $"<use href='#g{i - 1}'/>", 10).Append("</g>");
        }

        using var file = ReachingTests.Upload(Encoding.UTF8.GetBytes(svg.Append("</svg>").ToString()), "laughs.svg");
        Assert.Contains(
            "elements",
            (string?)(await (await (await server.As("imran")).PostAsync("/api/pictures", file)).Problem(422, "picture"))["detail"],
            StringComparison.Ordinal
        );
    }

    /// <summary>GIF89a, by hand: two frames, a loop, a comment and a plain text extension.</summary>
    [Fact]
    public async Task An_animation_keeps_moving_without_what_was_written_into_it()
    {
        var gif = Gif();
        Assert.Contains("secret place", Encoding.Latin1.GetString(gif), StringComparison.Ordinal);
        var added = await Add(await server.As("imran"), gif, "wave.gif");
        Assert.True(added.Moves);
        Assert.Single(added.Files);
        var loaded = await server.CreateClient().GetByteArrayAsync(added.Address);
        Assert.DoesNotContain("secret place", Encoding.Latin1.GetString(loaded), StringComparison.Ordinal);
        Assert.Contains("NETSCAPE2.0", Encoding.Latin1.GetString(loaded), StringComparison.Ordinal);
        using var codec = SKCodec.Create(new SKMemoryStream(loaded));
        Assert.Equal(2, codec.FrameCount);
        using var broken = ReachingTests.Upload(gif[..^8], "cut.gif");
        await (await (await server.As("imran")).PostAsync("/api/pictures", broken)).Problem(422, "picture");
    }

    [Fact]
    public async Task A_picture_cut_short_is_refused()
    {
        using var file = ReachingTests.Upload(Jpeg(1600, 1200)[..4000], "cut.jpg");
        Assert.Contains(
            "broken",
            (string?)(await (await (await server.As("imran")).PostAsync("/api/pictures", file)).Problem(422, "picture"))["detail"],
            StringComparison.Ordinal
        );
    }

    [Fact]
    public async Task Pictures_are_found_by_their_words_and_tags_page_by_page()
    {
        var author = await server.As("imran");
        var added = await Add(author, Jpeg(40, 30), "Turntable.jpg");
        (
            await author.PatchAsJsonAsync(
                $"/api/pictures/{added.Id}",
                new { alt = "A 100% iron_wheel", tags = new[] { "Works", "works", " wheels " } }
            )
        ).EnsureSuccessStatusCode();
        // The same again under other ids: drawing each would tell nothing more.
        server.Sql(
            $"""
            insert into pictures select (jsonb_populate_record(p, jsonb_build_object('id', md5(n::text) || md5('b' || n)))).*
            from pictures p, generate_series(1, 64) n where id = '{added.Id}'
            """
        );

        var (seen, after) = (new List<string>(), (string?)null);
        do
        {
            var page = (
                await author.GetFromJsonAsync<PicturePage>(
                    $"/api/pictures?q=TURNTABLE%20iron_wheel&tag=wheels{(after is null ? "" : "&after=" + after)}",
                    DocumentJson.Options
                )
            )!;
            Assert.Equal(65, page.Count);
            seen.AddRange(page.Pictures.Select(p => p.Id));
            after = page.Next;
        } while (after is not null);
        Assert.Equal(65, seen.Distinct(StringComparer.Ordinal).Count());
        Assert.Equal(65, seen.Count);
        // A wildcard is a letter like any other.
        Assert.Empty((await author.GetFromJsonAsync<PicturePage>("/api/pictures?q=iron%25wheel", DocumentJson.Options))!.Pictures);
        Assert.Contains(
            new TagEntry("wheels", 65),
            (await author.GetFromJsonAsync<TagEntry[]>("/api/pictures/tags", DocumentJson.Options))!
        );
        await (await author.PatchAsJsonAsync($"/api/pictures/{seen[0]}", new { name = " " })).Problem(422, "invalid");
        await (await author.GetAsync("/api/pictures?after=x")).Problem(400, "bad-request");
    }

    [Fact]
    public async Task A_picture_is_replaced_everywhere_and_put_back()
    {
        var (author, designer) = (await server.As("imran"), await server.As("dana"));
        var desk = await server.NewEmail(author);
        var hero = desk.Rows.Single(r => r.Id == "hero");
        var shown = hero
            .Columns.SelectMany(c => c.Blocks)
            .SelectMany(b => b.Fields)
            .Select(f => f.Value)
            .OfType<FieldValue.Image>()
            .First()
            .Picture;
        var other = await Add(designer, Jpeg(1300, 650, SKColors.Navy), "other.jpg");
        Assert.Contains(await Uses(shown), u => u is { Kind: Data.DocumentKind.Template, Name: "Special train" });

        await (await author.PutAsJsonAsync($"/api/pictures/{shown}/replacement", new { by = other.Id })).Problem(403, "refused");
        await (await designer.PutAsJsonAsync($"/api/pictures/{shown}/replacement", new { by = new string('0', 64) })).Problem(
            404,
            "not-found"
        );
        (await designer.PutAsJsonAsync($"/api/pictures/{shown}/replacement", new { by = other.Id })).EnsureSuccessStatusCode();
        Assert.Contains(
            other.Files[0].Address,
            (await Running.Desk(author, desk.Id)).Rows.Single(r => r.Id == "hero").Html,
            StringComparison.Ordinal
        );
        Assert.Contains(await Uses(other.Id), u => u is { Kind: Data.DocumentKind.Template, Name: "Special train" });
        Assert.DoesNotContain((await author.GetFromJsonAsync<PicturePage>("/api/pictures", DocumentJson.Options))!.Pictures, p =>
            p.Id == shown
        );
        // Not in a circle.
        await (await designer.PutAsJsonAsync($"/api/pictures/{other.Id}/replacement", new { by = shown })).Problem(422, "invalid");

        (await designer.DeleteAsync($"/api/pictures/{shown}/replacement")).EnsureSuccessStatusCode();
        Assert.DoesNotContain(
            other.Id,
            (await Running.Desk(author, desk.Id)).Rows.Single(r => r.Id == "hero").Html,
            StringComparison.Ordinal
        );

        async Task<IEnumerable<DocumentUse>> Uses(string id) =>
            (await author.GetFromJsonAsync<UsesAnswer>($"/api/pictures/{id}/uses", DocumentJson.Options))!.Uses;
    }

    private static async Task<PictureEntry> Add(HttpClient client, byte[] bytes, string name)
    {
        using var file = ReachingTests.Upload(bytes, name);
        return await (await client.PostAsync("/api/pictures", file)).Read<PictureEntry>();
    }

    // Sea green, with another colour in the left quarter where one is given.
    private static byte[] Jpeg(int width, int height, SKColor? left = null)
    {
        using var bitmap = new SKBitmap(width, height);
        bitmap.Erase(SKColors.SeaGreen);
        using (var canvas = new SKCanvas(bitmap))
        using (var paint = new SKPaint { Color = left ?? SKColors.SeaGreen })
        {
            canvas.DrawRect(0, 0, width / 4f, height, paint);
        }

        using var data = bitmap.Encode(SKEncodedImageFormat.Jpeg, 90);
        return data.ToArray();
    }

    // EXIF 2.32: an APP1 segment with a TIFF header, IFD0 (orientation, pointer to the GPS IFD) and the GPS IFD: 54° 27' 39" N,
    // 3° 12' 0" W.
    private static byte[] WithExif(byte[] jpeg, int orientation = 6)
    {
        static byte[] Two(int v) => [(byte)v, (byte)(v >> 8)];
        static byte[] Four(int v) => [(byte)v, (byte)(v >> 8), (byte)(v >> 16), (byte)(v >> 24)];
        static byte[] Entry(int tag, int type, int count, byte[] value) => [.. Two(tag), .. Two(type), .. Four(count), .. value];
        byte[] first = [.. Two(2), .. Entry(0x0112, 3, 1, [.. Two(orientation), 0, 0]), .. Entry(0x8825, 4, 1, Four(38)), .. Four(0)];
        byte[] gps =
        [
            .. Two(4),
            .. Entry(1, 2, 2, [(byte)'N', 0, 0, 0]),
            .. Entry(2, 5, 3, Four(92)),
            .. Entry(3, 2, 2, [(byte)'W', 0, 0, 0]),
            .. Entry(4, 5, 3, Four(116)),
            .. Four(0),
            .. Four(54),
            .. Four(1),
            .. Four(27),
            .. Four(1),
            .. Four(39),
            .. Four(1),
            .. Four(3),
            .. Four(1),
            .. Four(12),
            .. Four(1),
            .. Four(0),
            .. Four(1),
        ];
        byte[] body = [.. "Exif\0\0"u8, .. "II*\0"u8, .. Four(8), .. first, .. gps];
        return [.. jpeg[..2], 0xff, 0xe1, (byte)((body.Length + 2) >> 8), (byte)(body.Length + 2), .. body, .. jpeg[2..]];
    }

    private static byte[] Gif()
    {
        byte[] control = [0x21, 0xf9, 4, 0, 10, 0, 0, 0];
        byte[] frame = [0x2c, 0, 0, 0, 0, 1, 0, 1, 0, 0, 2, 2, 0x44, 1, 0];
        return
        [
            .. "GIF89a"u8,
            1,
            0,
            1,
            0,
            0x80,
            0,
            0,
            0xff,
            0,
            0,
            0,
            0,
            0xff,
            0x21,
            0xff,
            11,
            .. "NETSCAPE2.0"u8,
            3,
            1,
            0,
            0,
            0,
            0x21,
            0xfe,
            12,
            .. "secret place"u8,
            0,
            .. control,
            .. frame,
            .. control,
            .. frame,
            0x3b,
        ];
    }

    // A COM segment right after the start of image (ITU T.81, B.2.4.5).
    private static byte[] WithComment(byte[] jpeg, string comment)
    {
        var text = Encoding.ASCII.GetBytes(comment);
        return [.. jpeg[..2], 0xff, 0xfe, (byte)((text.Length + 2) >> 8), (byte)(text.Length + 2), .. text, .. jpeg[2..]];
    }

    // The signature and header of a PNG of the given size (ISO/IEC 15948, 11.2.2), and nothing after it.
    private static byte[] BombHeader(int width, int height)
    {
        byte[] header = [.. "IHDR"u8, .. BigEndian(width), .. BigEndian(height), 8, 2, 0, 0, 0];
        return
        [
            0x89,
            .. "PNG\r\n\u001a\n"u8,
            .. BigEndian(13),
            .. header,
            .. BigEndian(unchecked((int)Crc(header))),
            .. BigEndian(0),
            .. "IDAT"u8,
            .. BigEndian(0x35af061e),
        ];
    }

    // CRC-32 as ISO/IEC 15948, annex D, computes it.
    private static uint Crc(byte[] bytes)
    {
        var crc = uint.MaxValue;
        foreach (var b in bytes)
        {
            crc ^= b;
            for (var i = 0; i < 8; i++)
            {
                crc = (crc & 1) == 1 ? 0xedb88320 ^ (crc >> 1) : crc >> 1;
            }
        }

        return ~crc;
    }

    private static byte[] BigEndian(int value) => [(byte)(value >> 24), (byte)(value >> 16), (byte)(value >> 8), (byte)value];
}
