using GoldenRule.Core.Tests;
using GoldenRule.PictureWorker;
using SkiaSharp;

namespace GoldenRule.Server.Tests;

/// <summary>
/// Whatever is done to the bytes of a picture file, what opens it opens it or refuses it with a reason. In this process, so
/// that thousands are tried; in the server a process of its own opens each.
/// </summary>
public sealed class PictureFuzzTests
{
    private const string Drawing = """
        <svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 40 30"><defs><linearGradient id="g"><stop offset="0" stop-color="#123456"/>
        </linearGradient><g id="r"><rect width="9" height="9" fill="url(#g)"/></g></defs><style>.a{fill:#fff;stroke:#8e2a1c}</style>
        <g transform="translate(2 3) scale(1.5)"><path class="a" d="M0 0h4v3z"/><use href="#r" x="4"/><text x="1" y="9">a</text></g></svg>
        """;

    [Theory]
    [InlineData("svg")]
    [InlineData("png")]
    [InlineData("jpeg")]
    public void A_mutated_file_is_opened_or_refused(string kind)
    {
        var (seed, mutations) = (FuzzSettings.Seed, FuzzSettings.Mutations);
        var random = new Random(seed);
        var sound = Sound(kind);
        var (opened, refused) = (0, 0);
        for (var i = 0; i < mutations; i++)
        {
            var file = Mutated(sound, random);
            try
            {
                using var picture = PictureSource.Open(file, "mutated");
                opened++;
            }
            catch (UnfitException fault)
            {
                Assert.True(fault.Message.Length > 20);
                refused++;
            }
            catch (Exception fault)
            {
                throw new InvalidOperationException($"{kind}, seed {seed}, mutation {i}: {Convert.ToBase64String(file)}", fault);
            }
        }

        Assert.True(opened > 0 && refused > 0, $"{opened} opened, {refused} refused");
    }

    private static byte[] Sound(string kind)
    {
        if (kind == "svg")
        {
            return System.Text.Encoding.UTF8.GetBytes(Drawing);
        }

        using var bitmap = new SKBitmap(24, 16);
        using (var canvas = new SKCanvas(bitmap))
        {
            canvas.Clear(SKColors.SeaGreen);
        }

        using var data = bitmap.Encode(kind == "png" ? SKEncodedImageFormat.Png : SKEncodedImageFormat.Jpeg, 80);
        return data.ToArray();
    }

    private static byte[] Mutated(byte[] sound, Random random)
    {
        var bytes = sound.ToList();
        for (var changes = random.Next(1, 8); changes > 0; changes--)
        {
            var at = random.Next(bytes.Count);
            switch (random.Next(4))
            {
                case 0:
                    bytes[at] = (byte)random.Next(256);
                    break;
                case 1:
                    bytes.InsertRange(at, bytes.GetRange(at, Math.Min(random.Next(1, 30), bytes.Count - at)));
                    break;
                case 2:
                    bytes.RemoveRange(at, Math.Min(random.Next(1, 10), bytes.Count - at - 1));
                    break;
                default:
                    bytes[at] = (byte)"<>\"'&#/0-9 ;(){}"[random.Next(16)];
                    break;
            }
        }

        return [.. bytes];
    }
}
