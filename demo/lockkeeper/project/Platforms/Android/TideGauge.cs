using Lockkeeper.Platforms.Android;

[assembly: Dependency(typeof(TideGauge))]

namespace Lockkeeper.Platforms.Android;

public class TideGauge : ITideGauge
{
    public void Warm()
    {
    }
}
