namespace Aerarium.Storage;

/// <summary>
/// The places where a crash or a full disk does most harm: before and after each write, sending, answer and rename. Tests provoke both at every one
/// of them; otherwise nothing happens here.
/// </summary>
public sealed class FaultPoints
{
    /// <summary>Before a transaction begins.</summary>
    public const string BeforeWrite = "write, before";

    /// <summary>When everything of a transaction is written and nothing is kept yet.</summary>
    public const string BeforeCommit = "write, before it is kept";

    /// <summary>When it is kept and nobody has been told.</summary>
    public const string AfterCommit = "write, after it is kept";

    /// <summary>Before an e-return is submitted.</summary>
    public const string BeforeSubmit = "send, before";

    /// <summary>When the authority has it and the answer is not kept.</summary>
    public const string AfterSubmit = "send, after";

    /// <summary>Before the authority's verdict is kept.</summary>
    public const string BeforeAnswer = "answer, before";

    /// <summary>After it was kept.</summary>
    public const string AfterAnswer = "answer, after";

    /// <summary>Before a mail is sent.</summary>
    public const string BeforeMail = "mail, before";

    /// <summary>When it is on its way and that is not kept.</summary>
    public const string AfterMail = "mail, after";

    /// <summary>Before the database is copied for a backup.</summary>
    public const string BeforeCopy = "backup, before the copy";

    /// <summary>When a backup is whole and does not have its name yet.</summary>
    public const string BeforeBackupRename = "backup, before it is renamed";

    /// <summary>When it has its name, and older ones are still there.</summary>
    public const string AfterBackupRename = "backup, after it is renamed";

    /// <summary>When a restored practice is whole, beside its folder.</summary>
    public const string BeforeRestoreRename = "restore, before it is renamed";

    /// <summary>When it is in its folder.</summary>
    public const string AfterRestoreRename = "restore, after it is renamed";

    /// <summary>All of them.</summary>
    public static readonly IReadOnlyList<string> All =
    [
        BeforeWrite, BeforeCommit, AfterCommit, BeforeSubmit, AfterSubmit, BeforeAnswer, AfterAnswer, BeforeMail, AfterMail,
        BeforeCopy, BeforeBackupRename, AfterBackupRename, BeforeRestoreRename, AfterRestoreRename,
    ];

    /// <summary>What a test does when a point is reached; nothing unless set.</summary>
    internal Action<string>? Provoke { get; set; }

    /// <summary>Work has come to a point.</summary>
    public void Reach(string point) => Provoke?.Invoke(point);
}
