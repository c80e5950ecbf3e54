/** Outside diameter and walls of ASME B36.10M schedules 40 and 80, in inches, with PVC ratings in psi. */
export const SCHEDULE_80: readonly [name: string, outside: number, wall: number, pvcPsi: number][] =
  [
    ["1/2 in", 0.84, 0.147, 850],
    ["3/4 in", 1.05, 0.154, 690],
    ["1 in", 1.315, 0.179, 630],
    ["1-1/4 in", 1.66, 0.191, 520],
    ["1-1/2 in", 1.9, 0.2, 470],
    ["2 in", 2.375, 0.218, 400],
    ["2-1/2 in", 2.875, 0.276, 420],
    ["3 in", 3.5, 0.3, 370],
    ["4 in", 4.5, 0.337, 320],
    ["6 in", 6.625, 0.432, 280],
  ];
export const SCHEDULE_40: readonly [name: string, outside: number, wall: number, pvcPsi: number][] =
  [
    ["1/2 in", 0.84, 0.109, 600],
    ["3/4 in", 1.05, 0.113, 480],
    ["1 in", 1.315, 0.133, 450],
    ["1-1/4 in", 1.66, 0.14, 370],
    ["1-1/2 in", 1.9, 0.145, 330],
    ["2 in", 2.375, 0.154, 280],
    ["2-1/2 in", 2.875, 0.203, 300],
    ["3 in", 3.5, 0.216, 260],
    ["4 in", 4.5, 0.237, 220],
    ["6 in", 6.625, 0.28, 180],
  ];
