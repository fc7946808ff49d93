using Aerarium.Server;
using Aerarium.Server.Practice;
using Aerarium.Storage;

// Patterns come from published schemas too: none may keep a thread for itself.
AppDomain.CurrentDomain.SetData("REGEX_DEFAULT_MATCH_TIMEOUT", TimeSpan.FromSeconds(1));

if (args is ["restore", ..])
{
    PrivateFolder.MakeNewFilesPrivate();
    return args switch
    {
        [_, var file, var folder] => Restore(file, folder, null),
        [_, var file, var folder, var passphraseFile] => Restore(file, folder, passphraseFile),
        _ => Tell("Usage: restore BACKUP FOLDER [FILE WITH THE PASSPHRASE]", 2),
    };
}

try
{
    ServerApplication.Build(args).Run();
    return 0;
}
catch (Exception problem) when (problem is IOException or InvalidOperationException or UnauthorizedAccessException)
{
    return Tell(problem.Message, 1);
}

static int Restore(string file, string folder, string? passphraseFile)
{
    try
    {
        var contents = Backups.Restore(file, folder, BackupSeal.OfFile(passphraseFile));
        Console.WriteLine($"Restored and found whole: {contents.Returns} returns of {contents.Clients} clients, {contents.Acts} acts. Start the server with --Data {folder}.");
        return 0;
    }
    catch (Exception problem) when (problem is IOException or InvalidDataException or UnauthorizedAccessException)
    {
        return Tell(problem.Message, 1);
    }
}

static int Tell(string words, int code)
{
    Console.Error.WriteLine(words);
    return code;
}
