/**
 * A low pass as a sinc under a Hann window: its value `x` samples from the centre. `cutoff` in
 * cycles a sample, 0 to 0.5; `reach` samples on each side are not zero.
 */
export function hannSinc(x: number, cutoff: number, reach: number): number {
  return 2 * cutoff * sinc(2 * cutoff * x) * (0.5 + 0.5 * Math.cos((Math.PI * x) / (reach + 1)));
}

/**
 * A sinc under a Kaiser window of shape `beta`: its value `x` samples from the centre, 0 from
 * `reach` samples on. Kaiser & Schafer, IEEE Transactions on ASSP, 1980.
 */
export function kaiserSinc(x: number, reach: number, beta: number): number {
  const inside = 1 - (x / reach) ** 2;
  return inside > 0 ? (sinc(x) * besselI0(beta * Math.sqrt(inside))) / besselI0(beta) : 0;
}

const sinc = (x: number): number => (Math.abs(x) < 1e-9 ? 1 : Math.sin(Math.PI * x) / (Math.PI * x));

/** Modified Bessel function of the first kind, order 0, by its power series. */
function besselI0(x: number): number {
  let [sum, term] = [1, 1];
  for (let k = 1; term > sum * 1e-12; k++) {
    term *= (x / (2 * k)) ** 2;
    sum += term;
  }
  return sum;
}
