/** Width over height of the resin bed, from its volume and diameter. */
export function proportionOf(diameter: number, grossVolume: number): number {
  const height = (grossVolume * 1e6) / ((Math.PI / 4) * diameter ** 2);
  return diameter / height;
}
