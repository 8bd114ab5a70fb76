import { spawn, type ChildProcess } from "node:child_process";
import { mkdtempSync, rmSync } from "node:fs";
import { createServer } from "node:net";
import { tmpdir } from "node:os";
import { join } from "node:path";

/** Long enough for a machine that is busy with other things. */
const patienceMs = 180_000;

/** What a new data folder holds: nothing, or the harbour office's libraries. */
type Content = "nothing" | "harbour office";

/** A program with a data folder of its own, that can be killed and started again. */
export class OwnServer {
  private readonly data = mkdtempSync(join(tmpdir(), "dash-sprout-own-"));
  private process: ChildProcess | undefined;

  private constructor(
    private readonly port: number,
    private readonly content: Content,
  ) {}

  static async start(content: Content = "nothing"): Promise<OwnServer> {
    const server = new OwnServer(await freePort(), content);
    await server.start();
    return server;
  }

  get url(): string {
    return `http://localhost:${this.port}`;
  }

  async start(): Promise<void> {
    const command = ["DashSprout.Server.dll", "--port", `${this.port}`, "--data", this.data];
    if (this.content === "nothing") command.push("--empty", "true");
    const started = spawn("dotnet", command, { cwd: "../artifacts/server", stdio: "ignore" });
    this.process = started;
    const until = Date.now() + patienceMs;
    while (Date.now() < until) {
      if (started.exitCode !== null) throw new Error(`The program ended at once, with ${started.exitCode}.`);
      const ready = await fetch(`${this.url}/healthz`).then(
        (answer) => answer.ok,
        () => false,
      );
      if (ready) return;
      await new Promise((resolve) => setTimeout(resolve, 50));
    }
    throw new Error(`The program was not ready within ${patienceMs / 1000} seconds.`);
  }

  async kill(): Promise<void> {
    const { process } = this;
    if (!process) return;
    this.process = undefined;
    const ended = new Promise((resolve) => process.once("exit", resolve));
    process.kill("SIGKILL");
    await ended;
  }

  async end(): Promise<void> {
    await this.kill();
    rmSync(this.data, { recursive: true, force: true });
  }

  /** Sends JSON and gives the answer, which must be good. */
  async send(method: string, path: string, body: unknown): Promise<unknown> {
    const answer = await fetch(this.url + path, {
      method,
      headers: { "content-type": "application/json" },
      body: JSON.stringify(body),
    });
    if (!answer.ok) throw new Error(`${method} ${path}: ${answer.status} ${await answer.text()}`);
    const text = await answer.text();
    return text === "" ? undefined : JSON.parse(text);
  }

  /** Brings a library in, as a library file says it. */
  addLibrary(name: string, snippets: readonly unknown[], rules: object = {}): Promise<unknown> {
    const libraries = [{ name, snippets, ...rules }];
    return this.send("POST", "/api/library-file", { format: "dash-sprout-library", version: 1, libraries });
  }
}

function freePort(): Promise<number> {
  return new Promise((resolve, reject) => {
    const listener = createServer();
    listener.once("error", reject);
    listener.listen(0, "127.0.0.1", () => {
      const address = listener.address();
      listener.close(() =>
        typeof address === "object" && address ? resolve(address.port) : reject(new Error("no port")),
      );
    });
  });
}
