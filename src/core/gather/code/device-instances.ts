import { DEVICE_SERVICES } from "../../knowledge/device-services.js";

const HELD = /\b(I[A-Z]\w+)\s+(@?\w+)\s*(?=[;,)=])/g;

/**
 * Code in C# in which instances of the device's interfaces that it holds are written as the class which they are the default of: `_picker.CapturePhotoAsync()`
 * as `MediaPicker.CapturePhotoAsync()`; and the offset in the code itself of a place in it.
 */
export function withDeviceNames(code: string): { text: string; offset: (at: number) => number } {
  const held = new Map<string, string>();
  for (const [, type = "", name = ""] of code.matchAll(HELD)) if (DEVICE_SERVICES.has(type)) held.set(name, type.slice(1));
  if (held.size === 0) return { text: code, offset: (at) => at };
  const moved: { at: number; by: number }[] = [];
  let by = 0;
  const text = code.replace(
    /(?<![\w.])(?:this\s*\.\s*)?(@?[a-z_]\w*)(?=\s*\??\s*\.\s*[A-Z])/g,
    (whole: string, name: string, at: number) => {
      const type = held.get(name);
      if (type === undefined) return whole;
      by += type.length - whole.length;
      moved.push({ at: at + by + whole.length, by });
      return type;
    },
  );
  return { text, offset: (at) => at - (moved.findLast((one) => one.at <= at)?.by ?? 0) };
}
