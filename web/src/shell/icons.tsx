/** Our own few drawings, one stroke weight. */
const stroke = {
  fill: "none",
  stroke: "currentColor",
  strokeWidth: 1.8,
  strokeLinecap: "round",
  strokeLinejoin: "round",
} as const;

export const LibrariesIcon = () => (
  <svg viewBox="0 0 24 24" aria-hidden {...stroke}>
    <path d="M3 20h18M5 20V6h4v14M11 20V4h4v16M16.500 19.500 14.800 6.500l3.600-.6 2.100 13.600" />
  </svg>
);

export const PacksIcon = () => (
  <svg viewBox="0 0 24 24" aria-hidden {...stroke}>
    <path d="M4 9h16v11H4zM4 9l2.500-5h11L20 9M12 4v5M9 13.500h6" />
  </svg>
);

export const SavingsIcon = () => (
  <svg viewBox="0 0 24 24" aria-hidden {...stroke}>
    <path d="M3 20h18M6 20v-5M11 20V10M16 20v-7M6 9l5-5 4 4 5-5M20 3v4M20 3h-4" />
  </svg>
);

export const DeskIcon = () => (
  <svg viewBox="0 0 24 24" aria-hidden {...stroke}>
    <path d="M2 12h20M4 12v8M20 12v8M6 12V5h8v7M17 12V9h2.500M8.500 7.500h3" />
  </svg>
);

export const SproutIcon = ({ resting }: { resting: boolean }) => (
  <svg viewBox="0 0 24 20" aria-hidden {...stroke}>
    {resting ? (
      <path d="M3 18h18M12 18v-6c0-3 4-4 6-2M12 14c-1-2-4-2-5 0" />
    ) : (
      <path d="M3 18h18M12 18V9M12 10c0-4 2-6.500 6.500-6.500C18.500 7.500 16.500 10 12 10ZM12 13c0-3-1.800-5-5.500-5 0 3 1.800 5 5.500 5Z" />
    )}
  </svg>
);

export const SproutsIcon = () => (
  <svg viewBox="0 0 24 24" aria-hidden {...stroke}>
    <path d="M3 21h18M6 21v-5M12 21V9M18 21v-8M12 10c0-4 2-6 5.500-6 0 3.500-2 6-5.500 6ZM6 17c0-2.500-1.200-4-3.500-4 0 2.500 1.200 4 3.500 4ZM18 14c0-2 1-3.200 3-3.200 0 2-1 3.200-3 3.200Z" />
  </svg>
);

export const SettingsIcon = () => (
  <svg viewBox="0 0 24 24" aria-hidden {...stroke}>
    <path d="M4 6h9M18 6h2M4 12h2M11 12h9M4 18h11M20 18h0M15.500 4v4M8.500 10v4M17.500 16v4" />
  </svg>
);

export const SafetyIcon = () => (
  <svg viewBox="0 0 24 24" aria-hidden {...stroke}>
    <path d="M3 17c3-9 6-9 9 0s6 9 9 0M3 7h18M8.500 12.500l2.500 2.500 5-6" />
  </svg>
);

export const HistoryIcon = () => (
  <svg viewBox="0 0 24 24" aria-hidden {...stroke}>
    <path d="M4 5v5h5M4.500 10a8 8 0 1 1-.3 4.500M12 8v4.500l3 2" />
  </svg>
);
