/**
 * Dynamic viscosity of liquid water at 0.1 MPa in Pa·s, from a temperature in K.
 *
 * Source: IAPWS SR6-08(2011), Liquid Water at 0.1 MPa, equation 7. Valid 253.15–383.15 K.
 * @example viscosity(293.15) // 0.0010016
 */
export function viscosity(temperature: number): number {
  const t = temperature / 300;
  return (
    1e-6 * (280.68 * t ** -1.9 + 511.45 * t ** -7.7 + 61.131 * t ** -19.6 + 0.45903 * t ** -40)
  );
}
