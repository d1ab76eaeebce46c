import { createCipheriv, createDecipheriv, randomBytes } from "node:crypto";
import { deserialize, serialize } from "node:v8";
import { Source } from "../../syntax/source.js";

/** Classes whose objects are part of what is read, by the name in their `keptAs`; of all others none can be kept. */
const CLASSES: readonly { keptAs: string; prototype: object }[] = [Source];

const IV = 12;
const TAG = 16;

/**
 * A value as bytes that only the key opens (AES-256-GCM, 32 bytes of key). `undefined` when the value holds something that cannot be kept,
 * such as a function.
 */
export function seal(value: unknown, key: Uint8Array): Buffer | undefined {
  const instances = instancesIn(value);
  if (!instances) return undefined;
  const iv = randomBytes(IV);
  const cipher = createCipheriv("aes-256-gcm", key, iv);
  const sealed = Buffer.concat([cipher.update(serialize({ value, instances })), cipher.final()]);
  return Buffer.concat([iv, cipher.getAuthTag(), sealed]);
}

/** What was sealed; `undefined` when the key is another one or the bytes are damaged. */
export function unseal(bytes: Uint8Array, key: Uint8Array): unknown {
  try {
    const decipher = createDecipheriv("aes-256-gcm", key, bytes.subarray(0, IV));
    decipher.setAuthTag(bytes.subarray(IV, IV + TAG));
    const { value, instances } = deserialize(Buffer.concat([decipher.update(bytes.subarray(IV + TAG)), decipher.final()])) as Kept;
    for (const [index, objects] of instances.entries())
      for (const object of objects) Object.setPrototypeOf(object, CLASSES[index]?.prototype ?? null);
    return value;
  } catch {
    return undefined;
  }
}

interface Kept {
  value: unknown;
  instances: object[][];
}

/** The objects of each class in a value; `undefined` when there is a function, or an object of a class that is not known here. */
function instancesIn(value: unknown): object[][] | undefined {
  const instances: object[][] = CLASSES.map(() => []);
  const seen = new Set<object>();
  const open: unknown[] = [value];
  while (open.length > 0) {
    const next = open.pop();
    if (typeof next === "function") return undefined;
    if (typeof next !== "object" || next === null || seen.has(next)) continue;
    seen.add(next);
    if (Array.isArray(next) || next instanceof Set) {
      for (const item of next) open.push(item);
      continue;
    }
    if (next instanceof Map) {
      for (const [key, item] of next) open.push(key, item);
      continue;
    }
    const prototype: unknown = Object.getPrototypeOf(next);
    if (prototype !== Object.prototype && prototype !== null) {
      // The bundles of the program have the classes once each.
      const { keptAs } = (prototype as { constructor: { keptAs?: string } }).constructor;
      const index = CLASSES.findIndex((known) => known.keptAs === keptAs);
      if (index === -1) return undefined;
      instances[index]?.push(next);
    }
    for (const item of Object.values(next)) open.push(item);
  }
  return instances;
}
