namespace DashSprout.Server.Hosting;

/// <summary>Tells progress where it is made; the one of the framework tells it later, on another thread.</summary>
internal sealed class ProgressTold(Action<double> tell) : IProgress<double>
{
    public void Report(double value) => tell(value);
}
