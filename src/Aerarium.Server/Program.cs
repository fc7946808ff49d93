using Aerarium.Server;

ServerApplication.Build(args).Run();
