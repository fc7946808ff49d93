namespace Aerarium.Storage;

/// <summary>A stored entry.</summary>
public sealed record EntryRecord(
    string Line, string Row, string? Value, string Origin, string? Source, string? Expression, long Revision, long ChangedBy, string ChangedAt);

/// <summary>A stored row of a repeating section.</summary>
public sealed record RowRecord(string Section, string Row, long Position);
