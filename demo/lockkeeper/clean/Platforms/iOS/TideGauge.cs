using Lockkeeper.Platforms.iOS;

[assembly: Dependency(typeof(TideGauge))]

namespace Lockkeeper.Platforms.iOS;

public class TideGauge : ITideGauge
{
    public void Warm()
    {
    }
}
