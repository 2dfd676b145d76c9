import { z } from "zod";

/** The layout of a package (docs/formats.md). */
export const PACKAGE_FORMAT = "humming-tide-package";
export const PACKAGE_VERSION = 1;
export const MANIFEST_FILE = "humming-tide.json";
export const DOCUMENT_FILE = "show.json";
/** As `sha256sum` writes and checks it. */
export const CHECKSUMS_FILE = "SHA256SUMS";
export const MEDIA_FOLDER = "media/";

const sha256 = z.string().regex(/^[0-9a-f]{64}$/);

export const manifestSchema = z.object({
  format: z.literal(PACKAGE_FORMAT),
  version: z.number().int(),
  title: z.string(),
  documentSha256: sha256,
  media: z
    .array(
      z.object({
        /** Name inside the package: "media/" and the hash. */
        path: z.string(),
        sha256,
        bytes: z.number().int().nonnegative(),
        /** As the person named it. */
        fileName: z.string().min(1).max(1024),
      }),
    )
    .max(6000),
});
export type PackageManifest = z.infer<typeof manifestSchema>;
