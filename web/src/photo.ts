// A photo on its way to the program: made smaller on the phone, which also drops what it tells of place and time.

const LONGEST_SIDE = 1600;
const QUALITY = 0.85;

/** The photo as a data address; what this browser cannot read goes as it is, and the program says why not. */
export async function shrunk(file: Blob): Promise<string> {
  try {
    const image = await createImageBitmap(file, { imageOrientation: "from-image" });
    const scale = Math.min(1, LONGEST_SIDE / Math.max(image.width, image.height));
    const canvas = document.createElement("canvas");
    canvas.width = Math.max(1, Math.round(image.width * scale));
    canvas.height = Math.max(1, Math.round(image.height * scale));
    canvas.getContext("2d")?.drawImage(image, 0, 0, canvas.width, canvas.height);
    image.close();
    return canvas.toDataURL("image/jpeg", QUALITY);
  } catch {
    return asDataUrl(file);
  }
}

function asDataUrl(file: Blob): Promise<string> {
  return new Promise((done, failed) => {
    const reader = new FileReader();
    reader.onload = () => {
      done(String(reader.result));
    };
    reader.onerror = () => {
      failed(new Error("the file cannot be read"));
    };
    reader.readAsDataURL(file);
  });
}

/** What a data address holds. */
export function fromDataUrl(address: string): Blob {
  const [head = "", content = ""] = address.split(",", 2);
  const bytes = Uint8Array.from(atob(content), (sign) => sign.charCodeAt(0));
  return new Blob([bytes], { type: /^data:([^;,]+)/.exec(head)?.[1] ?? "image/jpeg" });
}
