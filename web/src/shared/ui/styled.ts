import { chakra, type RecipeDefinition, type RecipeVariantRecord } from "@chakra-ui/react";
import type { ElementType } from "react";
import { system } from "./theme";

/** A part with its look. The look is made ready once; Chakra alone would do it anew at each drawing of each part. */
export const styled = <T extends ElementType, P extends RecipeVariantRecord>(
  tag: T,
  look: RecipeDefinition<P>,
  more?: Parameters<typeof chakra<T, P>>[2],
) => chakra(tag, Object.assign(system.cva(look), look), more);
