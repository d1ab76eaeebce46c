import { describe, expect, it } from "vitest";
import { reasonText } from "../../src/core/model/reason.js";
import { MemoryTree } from "../../src/core/files/memory.js";
import { ProjectFiles } from "../../src/core/gather/project-files.js";
import { readPodfile } from "../../src/core/gather/platforms/ios/podfile.js";
import { noHelpers } from "../../src/core/gather/platforms/ios/ruby-host.js";
import { xcodeExample } from "../../src/core/rules/examples.js";
import { appOf, shown } from "../helpers/memory.js";

/** `name requirement target`, as the program of the language gives them with a stand-in for the commands of Podfiles (Ruby 3.1). */
function read(text: string): { pods: string[]; untold: string[] } {
  const podfile = readPodfile(new ProjectFiles(new MemoryTree({ Podfile: text })), "Podfile", noHelpers);
  if (!podfile) throw new Error("no Podfile");
  return {
    pods: podfile.pods.map(({ name, requirement, target, conditional }) =>
      [name, requirement ? shown(requirement) : "", target, conditional ? "perhaps" : ""].join(" ").trim().replace(/ +/g, " "),
    ),
    untold: podfile.unread.map(({ what, why }) => `${what}: ${reasonText(why)}`),
  };
}
const inTarget = (body: string): string => `target 'A' do\n${body}\nend\n`;

describe("pods that a script declares", () => {
  it.each([
    ["a name in a variable binds its block to the command", "name = 'A'\ntarget name do\n  pod 'Quay', '1.0'\nend\n", ["Quay 1.0 A"]],
    ["targets in a loop", "%w(A B).each do |t|\n  target t do\n    pod 'Quay', '1.0'\n  end\nend\n", ["Quay 1.0 A", "Quay 1.0 B"]],
    [
      "a hash of versions",
      `PODS = { 'Quay' => '1.0', 'Tide' => '2.0' }\n${inTarget("PODS.each { |n, v| pod n, v }")}`,
      ["Quay 1.0 A", "Tide 2.0 A"],
    ],
    ["pairs", inTarget("[['Quay', '1.0'], ['Tide', '2.0']].each do |n, v|\n  pod n, v\nend"), ["Quay 1.0 A", "Tide 2.0 A"]],
    [
      "loops in loops",
      inTarget("{ 'Quay' => ['Core', 'UI'] }.each do |n, s|\n  s.each { |x| pod \"#{n}/#{x}\", '1.0' }\nend"),
      ["Quay/Core 1.0 A", "Quay/UI 1.0 A"],
    ],
    ["for", inTarget("for n in ['Quay', 'Tide'] do\n  pod n, '1.0'\nend"), ["Quay 1.0 A", "Tide 1.0 A"]],
    ["times", inTarget('3.times { |i| pod "Quay#{i}" }'), ["Quay0 A", "Quay1 A", "Quay2 A"]],
    ["next", inTarget("['Quay', 'Tide'].each do |n|\n  next if n == 'Tide'\n  pod n\nend"), ["Quay A"]],
    [
      "a list that grows",
      `list = ['Quay']\nlist << 'Tide'\nlist += ['Buoy']\n${inTarget("list.each { |n| pod n }")}`,
      ["Quay A", "Tide A", "Buoy A"],
    ],
    [
      "a hash that grows",
      `h = { quay: '1.0' }\nh['tide'] = '2.0'\n${inTarget("pod 'Quay', h[:quay]\npod 'Tide', h['tide']")}`,
      ["Quay 1.0 A", "Tide 2.0 A"],
    ],
    ["several at once", `a, b = '1.0', '2.0'\n${inTarget("pod 'Quay', a\npod 'Tide', b")}`, ["Quay 1.0 A", "Tide 2.0 A"]],
    ["numbers", `n = 1\nn += 2\n${inTarget("pod 'Quay', \"#{n}.0\"")}`, ["Quay 3.0 A"]],
    ["nothing", `x = nil\nw = x.nil? ? '2.0' : '3.0'\n${inTarget("pod 'Quay', x || '1.0'\npod 'Tide', w")}`, ["Quay 1.0 A", "Tide 2.0 A"]],
    ["zero and an empty text are true", inTarget("pod 'Quay' if 0\npod 'Tide' unless ''\npod 'Buoy' if nil"), ["Quay A"]],
    ["the last value of a condition", `v = '1.0'\nv = '2.0' if v == '1.0'\n${inTarget("pod 'Quay', v")}`, ["Quay 2.0 A"]],
    [
      "default and named arguments",
      `def quay(v = '1.0', extra: nil)\n  pod 'Quay', v\n  pod extra, '2.0' if extra\nend\n${inTarget("quay\nquay '3.0', extra: 'Tide'")}`,
      ["Quay 1.0 A", "Quay 3.0 A", "Tide 2.0 A"],
    ],
    [
      "a method that returns early",
      `def quay(v)\n  return if v.nil?\n  pod 'Quay', v\nend\n${inTarget("quay nil\nquay '2.0'")}`,
      ["Quay 2.0 A"],
    ],
    [
      "an endless method",
      `def v(n) = n == 'Quay' ? '1.0' : '2.0'\n${inTarget("pod 'Quay', v('Quay')\npod 'Tide', v('Tide')")}`,
      ["Quay 1.0 A", "Tide 2.0 A"],
    ],
    ["a lambda", `common = lambda do\n  pod 'Quay'\nend\n${inTarget("common.call")}`, ["Quay A"]],
    [
      "a block that is handed over",
      `def extras\n  pod 'Quay'\n  yield\nend\n${inTarget("extras do\n  pod 'Tide'\nend")}`,
      ["Quay A", "Tide A"],
    ],
    ["a value from outside is not certain", `v = '1.0'\nv = '9.0' if ENV['X']\n${inTarget("pod 'Quay', v")}`, ["Quay either: 9.0, 1.0 A"]],
    [
      "a condition from outside is not certain",
      inTarget("if ENV['CI']\n  pod 'Quay', '1.0'\nelse\n  pod 'Quay', '2.0'\nend"),
      ["Quay 1.0 A perhaps", "Quay 2.0 A perhaps"],
    ],
  ])("%s", (_, text, expected) => {
    expect(read(text)).toEqual({ pods: expected, untold: [] });
  });

  it.each([
    ["a name from elsewhere", inTarget("pod name_of('x'), '1.0'"), "a pod of the target A: name_of('x') cannot be worked out"],
    ["a list from elsewhere", inTarget("read_list.each { |n| pod n }"), "a pod of the target A: read_list has no value in the files"],
    [
      "a method from elsewhere",
      `require_relative 'pods'\n${inTarget("shared_pods")}`,
      "what shared_pods brings to the target A: no file that was read defines it",
    ],
  ])("what cannot be worked out is told: %s", (_, text, told) => {
    expect(read(text)).toEqual({ pods: [], untold: [told] });
  });
});

describe("what a specification of the repository asks for and nobody can work out is told", () => {
  const told = (spec: string): string[] =>
    appOf({
      "ios/Pilot.xcodeproj/project.pbxproj": xcodeExample(),
      "ios/Podfile": "target 'Pilot' do\n  pod 'Tide', path: '../tide'\nend\n",
      "tide/Tide.podspec": spec,
    }).blindSpots.map(({ what, why, places }) => `${what}: ${reasonText(why)} (${places[0]?.file}:${places[0]?.line})`);

  it.each([
    ["nothing where all is plain", "Pod::Spec.new do |s|\n  s.dependency 'Moor', '~> 2.0'\nend\n", []],
    [
      "a requirement and a name of other programs",
      "Pod::Spec.new do |s|\n  s.dependency 'Moor', `tide-version`\n  s.dependency `tide-pod`\nend\n",
      [/^the version of Moor in the specification of Tide: .* \(tide\/Tide\.podspec:2\)$/, /^a pod in the specification of Tide: .*:3\)$/],
    ],
    [
      "a script that makes none as far as it was understood",
      "require_relative 'made-elsewhere'\nmake_specification 'Tide'\n",
      [/^all that it asks for in the specification of Tide: .* \(tide\/Tide\.podspec:1\)$/],
    ],
  ])("%s", (_, spec, expected) => {
    const found = told(spec);
    expect(found).toHaveLength(expected.length);
    for (const [index, pattern] of expected.entries()) expect(found[index]).toMatch(pattern);
  });
});
