import { describe, expect, it } from "vitest";
import { confirmLog, sidesOfLog } from "../../src/core/project/confirm/confirm.js";
import { severityOf } from "../../src/core/project/confirm/severity.js";
import { readLog } from "../../src/core/project/confirm/read-log.js";
import { quaymapAndroid } from "../../src/core/rules/examples.js";
import { appWithCode } from "../helpers/code.js";

const shown = (text: string) => readLog(text).entries.map(({ time, level, tag, process, message }) => [time, level, tag, process, message]);

describe("forms of logs", () => {
  it.each<[string, string, string, (string | undefined)[][]]>([
    [
      "threadtime",
      "logcat",
      "--------- beginning of main\n11-25 09:14:03.482  1201  1250 I Quaymap : ready: 4\n",
      [["11-25 09:14:03.482", "info", "Quaymap", undefined, "ready: 4"]],
    ],
    [
      "threadtime with a year and a user",
      "logcat",
      "2026-11-25 09:14:03.482 u0_a12 1201 1250 E Tide Feed: lost\n",
      [["2026-11-25 09:14:03.482", "error", "Tide Feed", undefined, "lost"]],
    ],
    [
      "the editor's form",
      "logcat",
      "2026-11-25 09:14:03.482  1201-1201  Quaymap                 example.maresia.pilot                W  slow\n",
      [["2026-11-25 09:14:03.482", "warning", "Quaymap", undefined, "slow"]],
    ],
    ["time", "logcat", "11-25 09:14:03.482 D/Quaymap( 1201): tiles\n", [["11-25 09:14:03.482", "debug", "Quaymap", undefined, "tiles"]]],
    ["brief", "logcat", "W/Quaymap ( 1201): slow\n", [[undefined, "warning", "Quaymap", undefined, "slow"]]],
    [
      "long",
      "logcat",
      "[ 11-25 09:14:03.482  1201: 1250 F/Quaymap ]\nfirst\nsecond\n\n[ 11-25 09:14:04.000  1201: 1250 I/Tide ]\nup\n",
      [
        ["11-25 09:14:03.482", "error", "Quaymap", undefined, "first\nsecond"],
        ["11-25 09:14:04.000", "info", "Tide", undefined, "up"],
      ],
    ],
    [
      "log show",
      "Apple log",
      "Timestamp                       Thread     Type        Activity             PID    TTL\n2026-11-25 09:14:03.482112+0100 0x1a2b     Error       0x0                  1201   0    Pilot: (Quaymap) [example.quaymap:map] no key\n",
      [["2026-11-25 09:14:03.482112+0100", "error", "example.quaymap:map", "Pilot", "no key"]],
    ],
    [
      "compact",
      "Apple log",
      "2026-11-25 09:14:03.482 Df Pilot[1201:5a3f] [example.quaymap:map] ready\n",
      [["2026-11-25 09:14:03.482", "info", "example.quaymap:map", "Pilot", "ready"]],
    ],
    [
      "NSLog",
      "Apple log",
      "2026-11-25 09:14:03.482 Pilot[1201:44] Quaymap 4.2.0 ready\n",
      [["2026-11-25 09:14:03.482", "info", undefined, "Pilot", "Quaymap 4.2.0 ready"]],
    ],
    [
      "a device's syslog",
      "Apple log",
      "Nov 25 09:14:03 Anna-Phone Pilot(Quaymap)[1201] <Error>: no key\n",
      [["Nov 25 09:14:03", "error", "Quaymap", "Pilot", "no key"]],
    ],
    [
      "JSON",
      "Apple log, JSON",
      '[{\n  "eventMessage" : "ready",\n  "messageType" : "Default",\n  "timestamp" : "t1",\n  "processImagePath" : "/a/Pilot"\n},{\n  "eventMessage" : "no key",\n  "messageType" : "Fault",\n  "subsystem" : "example.quaymap"\n}]',
      [
        ["t1", "info", undefined, "Pilot", "ready"],
        [undefined, "error", "example.quaymap", undefined, "no key"],
      ],
    ],
    [
      "JSON, an object a line, the last one cut off",
      "Apple log, JSON",
      '{"eventMessage":"ready","messageType":"Error"}\n{"eventMessage":"no',
      [[undefined, "error", undefined, undefined, "ready"]],
    ],
    [
      "a console",
      "console",
      "\ufeffQuaymap 4.2.0 ready\r\nERROR Tide lost\r\n",
      [
        [undefined, "info", undefined, undefined, "Quaymap 4.2.0 ready"],
        [undefined, "error", undefined, undefined, "ERROR Tide lost"],
      ],
    ],
  ])("%s", (_, form, text, entries) => {
    expect(readLog(text).form).toBe(form);
    expect(shown(text)).toEqual(entries);
  });

  it("places are lines of the file, also in JSON", () => {
    expect(readLog('[{\n  "eventMessage" : "a"\n},{\n  "eventMessage" : "b"\n}]').entries.map(({ line }) => line)).toEqual([2, 4]);
    expect(readLog("\n\nx\n").entries.map(({ line }) => line)).toEqual([3]);
  });

  it("nothing at all, and nonsense, end quickly", () => {
    expect(readLog("").entries).toEqual([]);
    expect(readLog("[".repeat(10_000)).entries).toHaveLength(1);
    expect(readLog(`${"a: ".repeat(50_000)}\n`).entries).toHaveLength(1);
  });
});

describe("what a log says of the SDKs", () => {
  const sheet = (name: string, needs: string) => ({
    [`enredo/sheets/${name}.sdk.yaml`]: `sdk: ${name}\npackages:\n  maven: example.${name}:${name}-android\nneeds:\n${needs}`,
  });
  const files = {
    ...quaymapAndroid(),
    ...sheet(
      "quaymap",
      '  - on: android\n    logLine: "Quaymap [0-9.]+ ready"\n  - on: android\n    start: { android: Quaymap.start, after: [brinelog] }\n',
    ),
    ...sheet("brinelog", '  - on: android\n    logLine: "session [0-9a-f]+ started"\n'),
    ...sheet("tidewire", '  - on: android\n    logLine: "feed up"\n'),
    ...sheet("moorid", "  - on: android\n    minSdk: 21\n"),
  };
  files["app/build.gradle"] = (files["app/build.gradle"] ?? "").replace(
    "dependencies {",
    "dependencies {\n  implementation 'example.brinelog:brinelog-android:2.1.0'\n  implementation 'example.tidewire:tidewire-android:1.0.0'\n  implementation 'example.moorid:moorid-android:1.0.0'",
  );
  const of = async (text: string) => {
    const { app, sheets } = await appWithCode(files);
    const [side] = confirmLog(app, sheets, readLog(text), undefined);
    return side?.sdks.map(
      (entry) =>
        `${String(entry.order ?? "-")} ${entry.sdk} ${entry.state} ${severityOf(entry) ?? "fine"}${entry.outOfOrder.length > 0 ? ` after ${entry.outOfOrder.join()}` : ""}`,
    );
  };

  it("who came up, in which order, who did not, and for whom nothing tells", async () => {
    expect(await of("I/Brinelog( 1): session 1f started\nI/Quaymap( 1): Quaymap 4.2.0 ready\n")).toEqual([
      "1 brinelog up fine",
      "2 quaymap up fine",
      "- tidewire silent error",
      "- moorid unknown note",
    ]);
  });

  it("the wrong order, and errors and warnings of their own", async () => {
    expect(
      await of(
        "I/Quaymap( 1): Quaymap 4.2.0 ready\nI/Brinelog( 1): session 1f started\nI/Tide( 1): feed up\nW/Tidewire( 1): slow\nE/Brinelog( 1): full\nE/Other( 1): not theirs\n",
      ),
    ).toEqual(["1 quaymap up error after brinelog", "2 brinelog up error", "3 tidewire up warning", "- moorid unknown note"]);
  });

  it("the form of the log tells the side; a console can be of either", () => {
    expect(sidesOfLog(readLog("I/A( 1): x\n"), undefined)).toEqual(["android"]);
    expect(sidesOfLog(readLog("2026-11-25 09:14:03.482 Pilot[1201:44] x\n"), undefined)).toEqual(["ios"]);
    expect(sidesOfLog(readLog("x\n"), undefined)).toEqual(["android", "ios"]);
    expect(sidesOfLog(readLog("x\n"), "ios")).toEqual(["ios"]);
  });
});
