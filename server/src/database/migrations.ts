import { Initial1764000000000 } from './migrations/1764000000000-initial';
import { FacesAndPictures1764100000000 } from './migrations/1764100000000-faces-and-pictures';
import { Recipes1764200000000 } from './migrations/1764200000000-recipes';
import { Uses1764300000000 } from './migrations/1764300000000-uses';
import { Bytes1764500000000 } from './migrations/1764500000000-bytes';
import { Drill1764700000000 } from './migrations/1764700000000-drill';
import { Pulls1764600000000 } from './migrations/1764600000000-pulls';
import { RecipeNames1764400000000 } from './migrations/1764400000000-recipe-names';

/** Every change of the tables there has been, in order. */
export const MIGRATIONS = [
  Initial1764000000000,
  FacesAndPictures1764100000000,
  Recipes1764200000000,
  Uses1764300000000,
  RecipeNames1764400000000,
  Bytes1764500000000,
  Pulls1764600000000,
  Drill1764700000000,
] as const;
