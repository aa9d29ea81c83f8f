namespace GoldenRule.Server.Hosting;

/// <summary>Bare status codes as problem details, so that every error has the same shape.</summary>
public static class StatusAnswer
{
    public static Task WriteAsync(HttpContext http, int status)
    {
        var (type, title, detail) = status switch
        {
            401 => ("sign-in", "Not signed in", "Sign in first."),
            403 => ("refused", "Not allowed", "Your role does not reach this."),
            404 => ("not-found", "Not found", $"There is nothing at {http.Request.Path}."),
            405 => ("method", "Method not allowed", $"{http.Request.Method} is not answered here."),
            413 => ("too-large", "Too large", "The request is larger than this server takes."),
            429 => ("too-often", "Asked too often", "This was asked more often than anyone needs. Wait a moment and try again."),
            415 => ("media-type", "Media type not taken", "Send application/json."),
            _ => ("status", "The request failed", $"The server answered {status}."),
        };
        var problem = Problems.Make(status, type, title, detail);
        problem.Instance = http.Request.Path;
        http.Response.StatusCode = status;
        return http.Response.WriteAsJsonAsync(problem, options: null, contentType: "application/problem+json", http.RequestAborted);
    }
}
