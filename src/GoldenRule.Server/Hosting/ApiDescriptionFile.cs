using Microsoft.AspNetCore.OpenApi;
using Microsoft.OpenApi;

namespace GoldenRule.Server.Hosting;

/// <summary>The description of the API as it is handed out: made once, as making it costs a second.</summary>
public sealed class ApiDescriptionFile([FromKeyedServices("v1")] IOpenApiDocumentProvider provider)
{
    private readonly SemaphoreSlim _one = new(1);
    private string? _made;

    public async Task<IResult> GetAsync(CancellationToken cancel)
    {
        await _one.WaitAsync(cancel);
        try
        {
            _made ??= await (await provider.GetOpenApiDocumentAsync(cancel)).SerializeAsJsonAsync(OpenApiSpecVersion.OpenApi3_1, cancel);
        }
        finally
        {
            _one.Release();
        }

        return Results.Text(_made, "application/json");
    }
}
