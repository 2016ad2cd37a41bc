export { type Manifest, RECIPES_FILE } from './manifest';
export {
  MAX_PACKAGE,
  type OpenedPackage,
  PACKAGE_EXTENSION,
  isZip,
  type PackageContents,
  PICTURE_ENDINGS,
  PackageError,
  type PackedFace,
  type PackedPicture,
  fontEnding,
  openPackage,
  recipesIn,
  recipesText,
  writePackage,
} from './package';
export { type FoundFace, type PackSources, packJob, toldOfLeft } from './pack';
