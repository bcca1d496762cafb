/** The demo site's pictures, drawn: night skies over a moor, each from its own seed. */
import { PNG } from 'pngjs';

type Colour = readonly [number, number, number];

/** Small pictures of few colours: the demo is cloned by everyone who works on Fastigium. */
const WIDTH = 640;
const HEIGHT = 400;

function random(seed: number): () => number {
  // mulberry32: enough for stars.
  let state = seed >>> 0;
  return () => {
    state = (state + 0x6d2b79f5) >>> 0;
    let t = Math.imul(state ^ (state >>> 15), state | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

class Canvas {
  readonly png = new PNG({ width: WIDTH, height: HEIGHT, colorType: 2 });

  set(x: number, y: number, [r, g, b]: Colour): void {
    if (x < 0 || y < 0 || x >= WIDTH || y >= HEIGHT) return;
    const at = (Math.floor(y) * WIDTH + Math.floor(x)) * 4;
    this.png.data[at] = r;
    this.png.data[at + 1] = g;
    this.png.data[at + 2] = b;
    this.png.data[at + 3] = 255;
  }

  /** In bands, which pack far better than a smooth gradient and look like a print. */
  sky(top: Colour, bottom: Colour, bands = 18): void {
    for (let y = 0; y < HEIGHT; y += 1) {
      const t = Math.floor((y / HEIGHT) * bands) / bands;
      const colour = top.map((value, i) => Math.round(value + ((bottom[i] ?? 0) - value) * t)) as unknown as Colour;
      for (let x = 0; x < WIDTH; x += 1) this.set(x, y, colour);
    }
  }

  disc(cx: number, cy: number, radius: number, colour: Colour): void {
    for (let y = -radius; y <= radius; y += 1) {
      const half = Math.floor(Math.sqrt(radius * radius - y * y));
      for (let x = -half; x <= half; x += 1) this.set(cx + x, cy + y, colour);
    }
  }

  box(x: number, y: number, width: number, height: number, colour: Colour): void {
    for (let j = 0; j < height; j += 1) for (let i = 0; i < width; i += 1) this.set(x + i, y + j, colour);
  }

  stars(count: number, seed: number, below: number): void {
    const next = random(seed);
    for (let i = 0; i < count; i += 1) {
      const [x, y, light] = [next() * WIDTH, next() * below, next()];
      const value = Math.round(120 + light * 135);
      this.set(x, y, [value, value, Math.min(255, value + 20)]);
      if (light > 0.9)
        for (const [dx, dy] of [
          [1, 0],
          [-1, 0],
          [0, 1],
          [0, -1],
        ] as const)
          this.set(x + dx, y + dy, [150, 155, 175]);
    }
  }

  moor(base: number, seed: number, colour: Colour): void {
    const next = random(seed);
    const waves = Array.from({ length: 4 }, (_, i) => ({
      size: 26 / (i + 1),
      length: 0.006 * (i + 1),
      start: next() * 6.28,
    }));
    for (let x = 0; x < WIDTH; x += 1) {
      const height = waves.reduce((sum, wave) => sum + Math.sin(x * wave.length + wave.start) * wave.size, 0);
      for (let y = Math.floor(base + height); y < HEIGHT; y += 1) this.set(x, y, colour);
    }
  }

  dome(x: number, ground: number, radius: number): void {
    this.box(x - radius, ground - radius, radius * 2, radius + 40, [38, 44, 54]);
    this.disc(x, ground - radius, radius, [62, 70, 84]);
    this.box(x - radius, ground - radius, radius * 2, radius, [38, 44, 54]);
    this.box(x - 4, ground - radius * 2 + 2, 9, radius, [12, 16, 24]);
    this.box(x + Math.floor(radius / 2), ground - Math.floor(radius / 2), 8, 10, [217, 178, 74]);
  }

  bytes(): Buffer {
    return PNG.sync.write(this.png, { colorType: 2, deflateLevel: 9 });
  }
}

type Scene = (canvas: Canvas) => void;

const night = (canvas: Canvas, seed: number) => {
  canvas.sky([10, 18, 34], [44, 58, 84]);
  canvas.stars(420, seed, 300);
};

const SCENES: Readonly<Record<string, Scene>> = {
  'dome-at-night': (c) => {
    night(c, 1);
    c.moor(320, 2, [22, 28, 34]);
    c.dome(430, 318, 62);
  },
  'moor-at-dusk': (c) => {
    c.sky([48, 54, 92], [226, 150, 96]);
    c.moor(290, 5, [58, 52, 60]);
    c.moor(340, 9, [34, 34, 42]);
  },
  moon: (c) => {
    night(c, 3);
    c.disc(320, 190, 110, [222, 214, 196]);
    for (const [x, y, r] of [
      [280, 160, 22],
      [350, 230, 30],
      [370, 140, 14],
      [300, 250, 12],
    ] as const)
      c.disc(x, y, r, [196, 188, 170]);
  },
  transit: (c) => {
    c.sky([26, 14, 8], [40, 22, 10]);
    c.disc(320, 200, 150, [240, 186, 76]);
    c.disc(300, 176, 4, [20, 12, 8]);
    c.disc(390, 262, 13, [200, 140, 52]);
  },
  'solar-terrace': (c) => {
    c.sky([126, 176, 214], [214, 230, 236]);
    c.disc(520, 90, 34, [250, 236, 190]);
    c.moor(300, 12, [96, 118, 88]);
    c.box(120, 290, 260, 18, [196, 184, 160]);
    c.box(180, 210, 10, 80, [70, 74, 80]);
    c.box(160, 196, 90, 16, [84, 90, 98]);
  },
  refractor: (c) => {
    c.sky([30, 34, 42], [54, 56, 62]);
    c.box(250, 240, 40, 130, [88, 82, 72]);
    for (let i = 0; i < 300; i += 1)
      c.disc(170 + i, 250 - Math.floor(i * 0.55), 17 + Math.floor(i / 40), [176, 142, 82]);
    c.disc(480, 80, 27, [206, 180, 120]);
  },
  perseids: (c) => {
    night(c, 21);
    for (let m = 0; m < 7; m += 1)
      for (let i = 0; i < 90; i += 1)
        c.set(90 + m * 75 + i, 40 + ((m * 53) % 150) + Math.floor(i * 0.6), [210, 220, 240]);
    c.moor(330, 4, [20, 26, 32]);
  },
  noctilucent: (c) => {
    c.sky([14, 26, 54], [70, 96, 130]);
    for (let k = 0; k < 40; k += 1)
      for (let x = 0; x < WIDTH; x += 1)
        c.set(x, 180 + k * 2 + Math.round(Math.sin(x * 0.02 + k) * 9), [168, 206, 226]);
    c.moor(330, 7, [18, 24, 30]);
  },
  workshop: (c) => {
    c.sky([206, 198, 180], [226, 220, 206]);
    c.box(80, 260, 480, 16, [120, 92, 60]);
    for (let i = 0; i < 6; i += 1) {
      c.disc(130 + i * 78, 220, 24, [58 + i * 16, 76, 110 - i * 9]);
      c.box(112 + i * 78, 244, 36, 30, [58 + i * 16, 76, 110 - i * 9]);
    }
  },
  'star-party': (c) => {
    night(c, 33);
    c.moor(320, 14, [22, 28, 30]);
    for (let i = 0; i < 9; i += 1) {
      c.disc(70 + i * 62, 326 + (i % 3) * 8, 7, [12, 14, 18]);
      c.box(64 + i * 62, 332 + (i % 3) * 8, 13, 24, [12, 14, 18]);
    }
    c.disc(330, 348, 3, [190, 60, 44]);
  },
  logo: (c) => {
    c.sky([30, 41, 48], [30, 41, 48]);
    c.disc(320, 220, 110, [217, 178, 74]);
    c.box(200, 220, 240, 120, [30, 41, 48]);
    c.box(312, 108, 16, 112, [30, 41, 48]);
  },
};

export function pictures(): Map<string, Buffer> {
  return new Map(
    Object.entries(SCENES).map(([name, scene]) => {
      const canvas = new Canvas();
      scene(canvas);
      return [name, canvas.bytes()];
    }),
  );
}
