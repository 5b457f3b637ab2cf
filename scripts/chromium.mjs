// Debian's Chromium, headless, without the background services that a closed network would only make it wait for.
export const chromiumPath = '/usr/bin/chromium'

export const chromiumOptions = {
  executablePath: chromiumPath,
  args: [
    '--no-sandbox',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
    '--use-gl=angle',
    '--use-angle=swiftshader',
    '--enable-unsafe-swiftshader',
    '--ignore-gpu-blocklist',
  ],
}
