/** Debian's Chromium, kept from talking to anything but this machine. */
export const launchOptions = {
  executablePath: "/usr/bin/chromium",
  args: [
    "--no-sandbox",
    // Without a graphics card views in space are drawn by the processor.
    "--enable-unsafe-swiftshader",
    "--disable-dev-shm-usage",
    "--disable-background-networking",
    "--disable-component-update",
    "--disable-sync",
    "--no-first-run",
    "--disable-quic",
  ],
};
