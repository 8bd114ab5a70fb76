using DashSprout.Core.Bodies;

namespace DashSprout.Bench;

/// <summary>Parsing and rendering a body of 5 000 characters with 40 live parts.</summary>
internal static class BodyWork
{
    public static void Print()
    {
        var parts = string.Concat(
            Enumerable
                .Range(0, 10)
                .Select(number =>
                    $"<p>{new string('x', 90)} <strong>Berth {number}</strong>: <time data-pattern=\"EEEE d "
                    + $"MMMM y\" data-shift=\"P{number}D\" data-days=\"working\"></time>, "
                    + $"<input name=\"a{number}\" type=\"number\" value=\"{number}\"> × 2.40 = <output "
                    + $"data-formula=\"round(a{number} * 2.40, 2)\" data-pattern=\"#,##0.00\"></output>"
                    + $"<span data-when=\"a{number} > 3\"> and some more words for long stays</span>"
                    + $"{new string('y', 130)}</p>"
                )
        );
        var body = Body.Html.Parse(parts);
        var context = new RenderContext();
        var live = body
            .Tree.Inlines()
            .Count(part => part is Inline.Date or Inline.Field or Inline.Calculation or Inline.Passage);

        var parse = Timings.Of(400, () => BodyParser.Parse(parts)).Median;
        var render = Timings
            .Of(2_000, () =>
            {
                var flow = Renderer.Render(body, context, Capitals.AsWritten).Flow;
                Writers.Rich(flow);
            })
            .Median;
        var all = Timings
            .Of(1_000, () =>
            {
                var flow = Renderer.Render(body, context, Capitals.AsWritten).Flow;
                Writers.Rich(flow);
                Writers.Plain(flow);
                Writers.Markdown(flow);
            })
            .Median;
        Console.WriteLine($"## A body of {parts.Length:N0} characters with {live} live parts");
        Console.WriteLine();
        Console.WriteLine("| what | median | wanted |");
        Console.WriteLine("| --- | ---: | ---: |");
        Console.WriteLine($"| parse | {Timings.Show(parse)} | 5 ms |");
        Console.WriteLine($"| render as rich text | {Timings.Show(render)} | 1 ms |");
        Console.WriteLine($"| render as rich, plain and Markdown | {Timings.Show(all)} | |");
        Console.WriteLine();
    }
}
