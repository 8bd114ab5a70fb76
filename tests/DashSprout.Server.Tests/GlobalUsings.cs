global using DashSprout.Server.Hosting;
global using Xunit;
