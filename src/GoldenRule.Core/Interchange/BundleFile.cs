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
    /// <param name="fields">The fields and conditions it has, as tables beside it. Null: it has none.</param>
    public static byte[] Write(CompiledEmail email, IEnumerable<(string Name, byte[] Content)> files, FieldExport? fields = null) =>
        Write(Own(email, fields), files);

    /// <summary>What stands at its top: the HTML, the text, and the tables of fields and conditions.</summary>
    public static IEnumerable<(string Name, byte[] Content)> Own(CompiledEmail email, FieldExport? fields = null) =>
        [
            ("index.html", email.Html()),
            ("plain.txt", Encoding.UTF8.GetBytes(fields?.PlainText ?? email.PlainText())),
            .. fields?.Tables() ?? [],
        ];

    /// <param name="own">What stands at its top.</param>
    public static byte[] Write(IEnumerable<(string Name, byte[] Content)> own, IEnumerable<(string Name, byte[] Content)> files)
    {
        using var stream = new MemoryStream();
        using (var archive = new ZipArchive(stream, ZipArchiveMode.Create, leaveOpen: true))
        {
            foreach (var (name, content) in own)
            {
                Add(archive, name, content);
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
