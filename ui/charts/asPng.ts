/** dots of a picture for each unit of its drawing */
const SHARPNESS = 2;

/** A drawing as the bytes of a PNG, twice as fine as it is shown; on white, for documents. */
export async function asPng(svg: string): Promise<Blob> {
  const image = new Image();
  const url = URL.createObjectURL(new Blob([svg], { type: "image/svg+xml" }));
  try {
    await new Promise((resolve, reject) => {
      image.onload = resolve;
      image.onerror = () => reject(new Error("The drawing could not be made into a picture."));
      image.src = url;
    });
    const canvas = document.createElement("canvas");
    [canvas.width, canvas.height] = [SHARPNESS * image.naturalWidth, SHARPNESS * image.naturalHeight];
    const context = canvas.getContext("2d");
    if (!context) throw new Error("This browser makes no pictures.");
    context.fillStyle = "#fff";
    context.fillRect(0, 0, canvas.width, canvas.height);
    context.drawImage(image, 0, 0, canvas.width, canvas.height);
    return await new Promise((resolve, reject) =>
      canvas.toBlob((blob) => (blob ? resolve(blob) : reject(new Error("The drawing could not be made into a picture.")))),
    );
  } finally {
    URL.revokeObjectURL(url);
  }
}
