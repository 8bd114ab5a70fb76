using System.Runtime.InteropServices;
using DashSprout.Bench;

Console.WriteLine($"{RuntimeInformation.FrameworkDescription}, {RuntimeInformation.OSDescription}, {Environment.ProcessorCount} cores");
Console.WriteLine();
Keystrokes.Print();
Edits.Print();
BodyWork.Print();
SafetyWork.Print();
