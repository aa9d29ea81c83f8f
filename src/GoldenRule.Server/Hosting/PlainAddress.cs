namespace GoldenRule.Server.Hosting;

/// <summary>Refuses addresses that hold U+0000 or lone surrogates: no text is searched for by them, and PostgreSQL keeps none.</summary>
public static class PlainAddress
{
    public static Task Require(HttpContext http, RequestDelegate next)
    {
        foreach (var (name, values) in http.Request.Query)
        {
            if (values.Append(name).Any(v => v is not null && !IsPlain(v)))
            {
                throw new ProblemException(
                    400,
                    "bad-request",
                    "The request cannot be read",
                    $"\"{name.Replace("\0", "", StringComparison.Ordinal)}\" in the address holds a character that is no letter. "
                        + "Leave it out."
                );
            }
        }

        return http.Request.Path.Value is { } path && !IsPlain(path)
            ? throw new ProblemException(
                400,
                "bad-request",
                "The request cannot be read",
                "The address holds a character that is no letter. Leave it out."
            )
            : next(http);
    }

    private static bool IsPlain(string text)
    {
        for (var i = 0; i < text.Length; i++)
        {
            if (
                text[i] == '\0'
                || (char.IsSurrogate(text[i]) && !(i + 1 < text.Length && char.IsSurrogatePair(text[i], text[i + 1]) && ++i > 0))
            )
            {
                return false;
            }
        }

        return true;
    }
}
