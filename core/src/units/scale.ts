/** How a meter turns conductivity into ppm: a named curve, plain µS/cm (`ec`), or its own factor 0.40 to 1.00. */
export type Scale = "nacl" | "442" | "kcl" | "ec" | number;
