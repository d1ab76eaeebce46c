namespace Lockkeeper;

/** Reads the gauge at the lock; each platform has its own radio. */
public interface ITideGauge
{
    void Warm();
}
