using System.Net;
using System.Text;

namespace Aerarium.Server.Tests;

/// <summary>One practice for tests that leave nothing behind for each other.</summary>
public sealed class SharedPractice : IAsyncLifetime
{
    public Practice Practice { get; private set; } = null!;

    public async ValueTask InitializeAsync() => Practice = await Practice.StartAsync();

    public ValueTask DisposeAsync() => Practice.DisposeAsync();
}

/// <summary>What is refused, and in which words.</summary>
public class RefusalTests(SharedPractice shared) : IClassFixture<SharedPractice>, IAsyncLifetime
{
    private static int _next;
    private Browser _rukia = null!;

    public async ValueTask InitializeAsync() => _rukia = await shared.Practice.SignInAsync(0);

    public ValueTask DisposeAsync()
    {
        GC.SuppressFinalize(this);
        return ValueTask.CompletedTask;
    }

    private async Task<long> TamsinAsync() => (await _rukia.GetAsync("/api/clients?search=Tamsin"))["items"]![0]!["id"]!.GetValue<long>();

    private static object New(string name, string? birthDate) =>
        new { country = "ke", identifier = $"A0077700{_next++:00}B", name, birthDate };

    [Theory]
    [InlineData("kind=letter&name=x.exe", "MZ\0\0binary", "PDF, PNG, JPEG")]
    [InlineData("kind=letter&name=empty", "", "PDF, PNG, JPEG")]
    [InlineData("kind=&name=x", "text", "Say what the document is")]
    [InlineData("kind=letter&name=x&year=1800", "text", "1800 is not a year")]
    [InlineData("kind=letter&name=x&returnId=1", "text", "another client")]
    public async Task What_cannot_be_kept_is_refused_in_words(string query, string content, string words)
    {
        var client = await TamsinAsync();
        var (status, answer) = await _rukia.UploadAsync($"/api/clients/{client}/documents?{query}", Encoding.UTF8.GetBytes(content));
        Assert.Equal(HttpStatusCode.UnprocessableEntity, status);
        Assert.Contains(words, answer["detail"]!.GetValue<string>());
        Assert.Empty((await _rukia.GetAsync($"/api/clients/{client}/documents")).AsArray());
    }

    [Theory]
    [InlineData("[{", "not JSON as it should be: line 1")]
    [InlineData("[1]", "Statement 1 is not an object")]
    [InlineData("""[{"months":[1]}]""", "Statement 1, 'months'")]
    [InlineData("<Statements><Statement></Statements>", "not XML as it should be")]
    [InlineData("<!DOCTYPE x [<!ENTITY e SYSTEM 'file:///etc/passwd'>]><Statement><a>&e;</a></Statement>", "declares a document type")]
    [InlineData("<Nothing/>", "holds no statement")]
    [InlineData("employerPin\n", "no rows")]
    [InlineData("", "empty")]
    public async Task A_file_that_cannot_be_read_says_where_and_what_to_do(string content, string words) =>
        Assert.Contains(words, (await _rukia.UploadAsync(
            $"/api/clients/{await TamsinAsync()}/statements/import?kind=employer-certificate&year=2025&name=certificates", Encoding.UTF8.GetBytes(content))).Answer["detail"]!.GetValue<string>());

    [Theory]
    [InlineData("oduya, njeri halvorsén", "9/3/1984", true)]
    [InlineData("Njeri Halvorsen Oduja", "9/3/1984", true)]
    [InlineData("Njeri Halvorsen Oduya", null, true)]
    [InlineData("Njeri Halvorsen Oduya", "1/1/1950", false)]
    [InlineData("Njeri Halvarson Odoja", "9/3/1984", false)]
    [InlineData("Somebody Else", "9/3/1984", false)]
    public async Task A_client_that_looks_like_another_is_asked_about_before_it_is_added(string name, string? birthDate, bool asks)
    {
        var saved = await _rukia.DoAsync(HttpMethod.Post, "/api/clients", New(name, birthDate));
        Assert.Equal(asks, saved["alike"] is not null);
        Assert.Equal(asks, saved["id"] is null);
    }
}
