using System.IO.Compression;
using System.Text;
using GoldenRule.Core.Compiling;

namespace GoldenRule.Core.Interchange;

/// <summary>An email as a ZIP: index.html, plain.txt and its pictures by relative links, to be opened anywhere.</summary>
public static class BundleFile
{
    public const string MediaType = "application/zip";

    /// <summary>Where pictures stand in the bundle: what the email has to be compiled with.</summary>
    public const string PicturesAt = "pictures/";

    // ZIP knows no dates before 1980; the same email gives the same bytes.
    private static readonly DateTimeOffset Unmoved = new(1980, 1, 1, 0, 0, 0, TimeSpan.Zero);

    /// <param name="email">Compiled with <see cref="PicturesAt"/>.</param>
    /// <param name="files">Pictures, calendar files and what else it leads to: name under <see cref="PicturesAt"/>, and bytes.</param>
    /// <param name="fields">The fields it has, as tables beside it. Null: it has none.</param>
    public static byte[] Write(CompiledEmail email, IEnumerable<(string Name, byte[] Content)> files, FieldExport? fields = null)
    {
        using var stream = new MemoryStream();
        using (var archive = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            Add(archive, "index.html", email.Html());
            Add(archive, "plain.txt", Encoding.UTF8.GetBytes(email.PlainText()));
            if (fields is { Fields.IsEmpty: false })
            {
                Add(archive, "fields.json", fields.Json());
                Add(archive, "fields.csv", fields.Csv());
            }

            foreach (var (name, content) in files)
            {
                Add(archive, PicturesAt + name, content);
            }
        }

        return stream.ToArray();
    }

    private static void Add(ZipArchive archive, string name, byte[] content)
    {
        var entry = archive.CreateEntry(name, CompressionLevel.Optimal);
        entry.LastWriteTime = Unmoved;
        using var stream = entry.Open();
        stream.Write(content);
    }
}
