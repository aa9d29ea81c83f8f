using System.Collections.Immutable;
using System.Threading.Tasks;

namespace GoldenRule.Core.HandOffs;

/// <summary>Whether a hand-off is still what it was, byte for byte.</summary>
/// <param name="Faults">What is not, in sentences; none: it holds.</param>
/// <param name="Files">How many were looked at.</param>
public sealed record HandOffVerification(ImmutableArray<string> Faults, int Files, long Bytes)
{
    public bool Holds => Faults.IsEmpty;

    /// <param name="json">The record as it is stored.</param>
    /// <param name="seal">SHA-256 of the record, as it was kept apart from it.</param>
    /// <param name="read">The bytes of a file. Null: there are none.</param>
    public static async Task<HandOffVerification> CheckAsync(string json, string seal, Func<HandOffFile, Task<byte[]?>> read)
    {
        var faults = ImmutableArray.CreateBuilder<string>();
        if (HandOffRecord.SealOf(json) != seal)
        {
            faults.Add("The record is not the one that was sealed.");
        }

        var (record, bytes) = (HandOffRecord.Read(json), 0L);
        foreach (var file in record.Files)
        {
            var content = await read(file);
            bytes += content?.Length ?? 0;
            if (content is null)
            {
                faults.Add($"{file.Name} is missing.");
            }
            else if (FrozenEmail.Sha256(content) != file.Sha256)
            {
                faults.Add($"{file.Name} is not the file that was frozen: its SHA-256 is another one.");
            }
        }

        return new HandOffVerification(faults.ToImmutable(), record.Files.Length, bytes);
    }
}
