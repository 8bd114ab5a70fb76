using System.Runtime.InteropServices;
using DashSprout.Bench;

Console.WriteLine(
    $"{RuntimeInformation.FrameworkDescription}, {RuntimeInformation.OSDescription}, {Environment.ProcessorCount} cores"
);
Console.WriteLine();
if (args is [])
    args = ["keys", "edits", "bodies", "safety", "learning"];
if (args.Contains("keys"))
    Keystrokes.Print();
if (args.Contains("edits"))
    await Edits.Print();
if (args.Contains("bodies"))
    BodyWork.Print();
if (args.Contains("safety"))
    SafetyWork.Print();
if (args.Contains("learning"))
    LearningWork.Print();
