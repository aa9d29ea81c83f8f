using System.Text;
using GoldenRule.Server.Hosting;

namespace GoldenRule.Server.People;

internal static class PersonName
{
    private const int Longest = 80;

    /// <exception cref="ProblemException">It is empty, too long, or has letters that nobody sees.</exception>
    public static string Read(string said)
    {
        var name = string.Join(' ', said.Split((char[]?)null, StringSplitOptions.RemoveEmptyEntries)).Normalize(NormalizationForm.FormC);
        if (name.Any(c => char.IsControl(c) || char.GetUnicodeCategory(c) == System.Globalization.UnicodeCategory.Format))
        {
            throw ProblemException.Invalid("The name has marks in it that nobody sees. Type it anew.", "name");
        }

        return name.Length is 0 or > Longest
            ? throw ProblemException.Invalid($"A name has 1 to {Longest} characters; this one has {name.Length}.", "name")
            : name;
    }
}
