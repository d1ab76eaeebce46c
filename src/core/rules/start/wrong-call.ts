import { findingsFromFaults } from "../from-faults.js";
import { defineRule } from "../rule.js";
import { startExample } from "./examples.js";

export const wrongCall = defineRule({
  name: "start/wrong-call",
  severity: "error",
  title: "A start call that is withdrawn or has wrong arguments",
  looksAt:
    "Start calls that a sheet lists under withdrawn, and the arguments that it requires: whether they are given, and the form of texts that are written in the code, in a constant, a variable, an object or a field of the build (each build's value), that a parameter or a constructor hands on, or that an entry holds which the code asks for by name.",
  why: "The SDK refuses to start, or starts for another account.",
  advice: "Use the call that the sheet names, with the arguments that it requires.",
  examples: {
    reported: startExample({
      onCreate: '    Quaymap.start(this, "harbour")\n',
      start: ', arguments: [{ position: 2, shape: "qm_[0-9a-f]{8}" }]',
    }),
    silent: startExample({
      onCreate: '    Quaymap.start(this, "qm_0123abcd")\n',
      start: ', arguments: [{ position: 2, shape: "qm_[0-9a-f]{8}" }]',
    }),
  },
  check({ wires }) {
    return findingsFromFaults(wires, "call");
  },
});
