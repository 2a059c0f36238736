import { readdirSync, readFileSync, writeFileSync } from "node:fs";
import { join } from "node:path";
import { brotliCompressSync, constants, gzipSync } from "node:zlib";
import react from "@vitejs/plugin-react";
import { defineConfig, type Plugin } from "vite";

/** Writes a compressed twin beside every script, style and page, so that the server
 * need not compress what never changes. */
function compressed(): Plugin {
  return {
    name: "compressed",
    apply: "build",
    writeBundle({ dir }) {
      if (!dir) return;
      for (const name of readdirSync(dir, { recursive: true, encoding: "utf8" })) {
        if (!/\.(js|css|html|svg)$/.test(name)) continue;
        const data = readFileSync(join(dir, name));
        const quality = { params: { [constants.BROTLI_PARAM_QUALITY]: constants.BROTLI_MAX_QUALITY } };
        writeFileSync(join(dir, `${name}.br`), brotliCompressSync(data, quality));
        writeFileSync(join(dir, `${name}.gz`), gzipSync(data, { level: 9 }));
      }
    },
  };
}

export default defineConfig({
  plugins: [react(), compressed()],
  build: {
    target: "es2022",
    chunkSizeWarningLimit: 700,
    assetsInlineLimit: 0,
    modulePreload: { polyfill: false },
    rolldownOptions: {
      // What several parts of our own share comes as one file, not as twenty of a few hundred
      // bytes; but not what all dialogs are made of, which comes with the first of them.
      output: {
        codeSplitting: {
          groups: [{ name: "shared", test: /\/src\/(?!dialogs\/[A-Z]).*\.tsx?$/, minShareCount: 2 }],
        },
      },
    },
  },
  server: { proxy: { "/api": "http://127.0.0.1:7373" } },
});
