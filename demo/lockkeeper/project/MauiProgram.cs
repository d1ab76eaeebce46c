namespace Lockkeeper;

public static class MauiProgram
{
    public static MauiApp CreateMauiApp()
    {
        var builder = MauiApp.CreateBuilder();
        builder.UseMauiApp<App>();
        DependencyService.Get<ITideGauge>()?.Warm();
        return builder.Build();
    }
}
