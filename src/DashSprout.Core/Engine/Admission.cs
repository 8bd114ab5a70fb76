using DashSprout.Core.Triggers;

namespace DashSprout.Core.Engine;

/// <summary>
/// Where some abbreviations may go off, taken together: for each left edge the scope that admits what one of them
/// admits. A node of the trie knows it for all that lie below, so that one look tells whether a longer one can still
/// follow, however many there are.
/// </summary>
internal sealed class Admission
{
    public static readonly Admission None = new(null, null, null);

    /// <summary>Nearly all triggers work everywhere, so that these are shared by nearly all nodes.</summary>
    private static readonly Admission[] EverywhereBy =
    [
        .. Enumerable.Range(0, 8).Select(bits => new Admission(For(bits, 1), For(bits, 2), For(bits, 4))),
    ];

    private readonly Scope? space;
    private readonly Scope? word;
    private readonly Scope? any;

    private Admission(Scope? space, Scope? word, Scope? any)
    {
        this.space = space;
        this.word = word;
        this.any = any;
    }

    public Scope? this[LeftEdge edge] =>
        edge switch
        {
            LeftEdge.Space => space,
            LeftEdge.Word => word,
            _ => any,
        };

    public Admission With(ActiveTrigger trigger)
    {
        var scope = trigger.Trigger.Scope;
        return trigger.Rules!.LeftEdge switch
        {
            LeftEdge.Space => Of(Union(space, scope), word, any),
            LeftEdge.Word => Of(space, Union(word, scope), any),
            _ => Of(space, word, Union(any, scope)),
        };
    }

    public Admission With(Admission other) =>
        ReferenceEquals(this, other) || ReferenceEquals(other, None) ? this
        : ReferenceEquals(this, None) ? other
        : Of(Union(space, other.space), Union(word, other.word), Union(any, other.any));

    public Admission With(ActiveTrigger[] triggers)
    {
        var all = this;
        foreach (var trigger in triggers)
            all = all.With(trigger);
        return all;
    }

    private Admission Of(Scope? forSpace, Scope? forWord, Scope? forAny)
    {
        if (ReferenceEquals(forSpace, space) && ReferenceEquals(forWord, word) && ReferenceEquals(forAny, any))
            return this;
        var everywhere =
            forSpace is null or Scope.EverywhereScope
            && forWord is null or Scope.EverywhereScope
            && forAny is null or Scope.EverywhereScope;
        return everywhere
            ? EverywhereBy[(forSpace is null ? 0 : 1) + (forWord is null ? 0 : 2) + (forAny is null ? 0 : 4)]
            : new Admission(forSpace, forWord, forAny);
    }

    private static Scope? Union(Scope? one, Scope? other) =>
        one is null || ReferenceEquals(one, other) ? other
        : other is null ? one
        : Scope.Union(one, other);

    private static Scope? For(int bits, int bit) => (bits & bit) != 0 ? Scope.Everywhere : null;
}
