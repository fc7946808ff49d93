using Aerarium.Server;

var app = ServerApplication.Build(args);
app.Run();

/// <summary>Entry point, visible to tests.</summary>
public partial class Program;
