const berths = [
  ["3", "12 m", "free"],
  ["4", "12 m", "Marram"],
  ["7", "18 m", "free"],
  ["9", "24 m", "Sea Thrift"],
];

const commands: Record<string, (rest: string) => string[]> = {
  help: () => ["echo TEXT   berths [--free]   tide   date   help"],
  echo: (rest) => [rest],
  date: () => [new Date().toLocaleString("en-GB", { dateStyle: "full", timeStyle: "short" })],
  tide: () => ["High water 07:12  4.1 m", "Low water  13:25  0.9 m"],
  berths: (rest) =>
    berths
      .filter((berth) => !rest.includes("--free") || berth[2] === "free")
      .map(([number, length, vessel]) => `berth ${number}  ${length}  ${vessel}`),
};

/** The lines that a command of the stand-in console answers with. */
export function runCommand(line: string): string[] {
  const [name = "", ...rest] = line.trim().split(/\s+/);
  if (name === "") return [];
  return commands[name]?.(rest.join(" ")) ?? [`${name}: no such command. Type help.`];
}
