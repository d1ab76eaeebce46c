import { createCipheriv, createDecipheriv, randomBytes } from "node:crypto";
import { deserialize, serialize } from "node:v8";

const IV = 12;
const TAG = 16;

/**
 * A value as bytes that only the key opens (AES-256-GCM, 32 bytes of key). `undefined` when the value holds something that cannot be kept,
 * such as a function.
 */
export function encrypt(value: unknown, key: Uint8Array): Buffer | undefined {
  if (!isPlain(value)) return undefined;
  const iv = randomBytes(IV);
  const cipher = createCipheriv("aes-256-gcm", key, iv);
  const encrypted = Buffer.concat([cipher.update(serialize(value)), cipher.final()]);
  return Buffer.concat([iv, cipher.getAuthTag(), encrypted]);
}

/** What was sealed; `undefined` when the key is another one or the bytes are damaged. */
export function decrypt(bytes: Uint8Array, key: Uint8Array): unknown {
  try {
    const decipher = createDecipheriv("aes-256-gcm", key, bytes.subarray(0, IV));
    decipher.setAuthTag(bytes.subarray(IV, IV + TAG));
    return deserialize(Buffer.concat([decipher.update(bytes.subarray(IV + TAG)), decipher.final()]));
  } catch {
    return undefined;
  }
}

/** Whether a value is plain data: no function in it, and no object of a class but bytes, maps and sets. */
function isPlain(value: unknown): boolean {
  if (typeof value === "function") return false;
  const seen = new Set<object>();
  const open: object[] = [];
  /** Notes what is to be looked into; false where something cannot be kept. */
  const fits = (item: unknown): boolean => {
    if (typeof item === "object" && item !== null) {
      if (seen.has(item)) return true;
      seen.add(item);
      open.push(item);
    }
    return typeof item !== "function";
  };
  fits(value);
  for (let next = open.pop(); next !== undefined; next = open.pop()) {
    if (next instanceof Uint8Array) continue;
    if (Array.isArray(next) || next instanceof Set) {
      for (const item of next) if (!fits(item)) return false;
      continue;
    }
    if (next instanceof Map) {
      for (const [key, item] of next) if (!fits(key) || !fits(item)) return false;
      continue;
    }
    const prototype: unknown = Object.getPrototypeOf(next);
    if (prototype !== Object.prototype && prototype !== null) return false;
    for (const name in next) if (!fits(next[name as keyof typeof next])) return false;
  }
  return true;
}
