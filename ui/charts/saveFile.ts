"use client";

/** Hands a file made in the page to the person, under a name without odd signs. */
export function saveFile(name: string, extension: string, content: string | Blob, type: string): void {
  const url = URL.createObjectURL(new Blob([content], { type }));
  const a = document.createElement("a");
  a.href = url;
  a.download = `${name.replace(/[^\w-]+/g, "-")}.${extension}`;
  a.click();
  URL.revokeObjectURL(url);
}
