// Each of these tests has a desktop of its own and types on it against the clock: two at a time would wait for each other.
[assembly: CollectionBehavior(DisableTestParallelization = true)]
