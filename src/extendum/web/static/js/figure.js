// A figure on a canvas: the layers of its drawing from far to near, at any place of its movement. What the server draws
// as a picture is drawn here from the same numbers, between two moments too.
const loaded = new Map();
export function load(address) {
  if (!loaded.has(address)) {
    loaded.set(
      address,
      fetch(address)
        .then((answer) => {
          if (!answer.ok) throw new Error(`${answer.status}`);
          return answer.json();
        })
        .then(read)
        .catch(() => {
          loaded.delete(address);
          return null;
        }),
    );
  }
  return loaded.get(address);
}

// A drawing that came with the page: nothing is fetched for it.
export function give(address, plain) {
  loaded.set(
    address,
    plain.then(read).catch(() => null),
  );
}

// Outlines as points for each moment; of weights as they are.
function read(plain) {
  const weights = new Set(plain.layers.map((layer) => layer[6]));
  const sets = plain.sets.map((moments, n) =>
    moments.map((steps) => {
      if (weights.has(n)) return Float32Array.from(steps, (one) => one / 100);
      const points = Float32Array.from(steps);
      for (let k = 2; k < points.length; k++) points[k] += points[k - 2];
      return points;
    }),
  );
  const breath = Object.entries(plain.breath).map(([n, by]) => /** @type {[number, any]} */ ([Number(n), by]));
  return { ...plain, sets, breath: new Map(breath) };
}

const size = (points) => points.length / 2;
// The outline of a moment and the next, between them; fuller by the breath.
function between(data, n, place, breath) {
  const moments = data.sets[n];
  const low = Math.min(Math.floor(place), moments.length - 1),
    share = place - low;
  const by = breath ? data.breath.get(n) : null;
  if (!by && (moments.length === 1 || share < 1e-3)) return moments[low];
  const a = moments[low],
    b = moments[Math.min(low + 1, moments.length - 1)];
  const made = new Float32Array(a.length);
  for (let k = 0; k < a.length; k++) made[k] = a[k] + (b[k] - a[k]) * share + (by ? by[k] * breath : 0);
  return made;
}
function grown(points, weights, gap) {
  const count = size(points),
    made = new Float32Array(points.length);
  for (let k = 0; k < count; k++) {
    const before = 2 * ((k + count - 1) % count),
      after = 2 * ((k + 1) % count);
    const x = points[after] - points[before],
      y = points[after + 1] - points[before + 1];
    const far = (gap * weights[k]) / (Math.hypot(x, y) || 1);
    made[2 * k] = points[2 * k] + y * far;
    made[2 * k + 1] = points[2 * k + 1] - x * far;
  }
  return made;
}
function pathOf(points, curved, closed) {
  const path = new Path2D(),
    count = size(points);
  const x = (k) => points[2 * (k % count)],
    y = (k) => points[2 * (k % count) + 1];
  if (!curved) {
    path.moveTo(x(0), y(0));
    for (let k = 1; k < count; k++) path.lineTo(x(k), y(k));
    if (closed) path.closePath();
  } else if (closed) {
    path.moveTo((x(count - 1) + x(0)) / 2, (y(count - 1) + y(0)) / 2);
    for (let k = 0; k < count; k++) path.quadraticCurveTo(x(k), y(k), (x(k) + x(k + 1)) / 2, (y(k) + y(k + 1)) / 2);
    path.closePath();
  } else {
    path.moveTo(x(0), y(0));
    for (let k = 1; k < count - 1; k++) {
      const last = k === count - 2;
      path.quadraticCurveTo(
        x(k),
        y(k),
        last ? x(k + 1) : (x(k) + x(k + 1)) / 2,
        last ? y(k + 1) : (y(k) + y(k + 1)) / 2,
      );
    }
  }
  return path;
}

const LINES = new Set([
  "ghost-line",
  "tint-far",
  "tint-far-rim",
  "fibre",
  "sight",
  "lid",
  "arrow",
  "arrow-rim",
  "skin-line",
  "brow",
]);
const DASHED = { "ghost-line": [26, 18], "tint-far": [22, 16], sight: [4, 26] };

export class Figure {
  // ``sign``: the letter of the side, or nothing; ``mirrored``: left and right change places, the letter stays readable.
  constructor(data, { sign = "", mirrored = false } = {}) {
    this.data = data;
    this.sign = sign;
    this.mirrored = mirrored;
    this.canvas = document.createElement("canvas");
    this.drawn = this.was = null;
    this.sized = new ResizeObserver(() => {
      this.drawn = null;
      if (this.was) this.show(...this.was);
    });
    this.sized.observe(this.canvas);
  }
  get moves() {
    return this.data.moments > 1;
  }
  // How high the floor stands, as a share of the picture: what lies beside it goes on from there.
  get ground() {
    const { layers, sets, units } = this.data,
      floor = layers.find(([tone]) => tone === "floor");
    if (!floor) return 0;
    const points = sets[floor[1]][0];
    return 1 - Math.max(0, Math.min(...points.filter((_, k) => k % 2))) / units;
  }
  // Where a still picture is: at the stop that is held.
  get still() {
    return this.data.stops.length > 1 ? this.data.held / (this.data.stops.length - 1) : 0;
  }

  // ``place``: from 0, where it begins, to 1, where it goes; through its stops, each as long. ``breath``: from empty to full.
  show(place, breath) {
    this.was = [place, breath];
    const { canvas, data } = this;
    const side = Math.round(Math.min(canvas.clientWidth, canvas.clientHeight) * (window.devicePixelRatio || 1));
    if (!side) return;
    const at = Math.round(this.moment(Math.min(1, Math.max(0, place))) * 64) / 64,
      full = Math.round(breath * 24) / 24;
    const key = `${side} ${at} ${full} ${this.mirrored}`;
    if (key === this.drawn) return;
    this.drawn = key;
    if (canvas.width !== side) {
      canvas.width = side;
      canvas.height = side;
    }
    canvas.dataset.at = at.toFixed(2);
    const pen = canvas.getContext("2d");
    pen.setTransform(side / data.units, 0, 0, side / data.units, 0, 0);
    pen.fillStyle = data.tones.paper;
    pen.fillRect(0, 0, data.units, data.units);
    pen.save();
    if (this.mirrored) pen.transform(-1, 0, 0, 1, data.units, 0);
    pen.lineJoin = pen.lineCap = "round";
    this.layers(pen, at, full);
    pen.restore();
    this.letter(pen);
  }
  moment(place) {
    const { stops } = this.data,
      along = place * (stops.length - 1);
    const low = Math.min(Math.floor(along), stops.length - 2);
    return low < 0 ? 0 : stops[low] + (stops[low + 1] - stops[low]) * (along - low);
  }
  layers(pen, at, breath) {
    const { data } = this,
      nearest = Math.round(at);
    const outlines = new Map(),
      paths = new Map();
    const outline = (n) => {
      if (!outlines.has(n)) outlines.set(n, between(data, n, at, breath));
      return outlines.get(n);
    };
    const path = (n, curved, closed) => {
      const key = n * 4 + curved + 2 * closed;
      if (!paths.has(key)) paths.set(key, pathOf(outline(n), curved, closed));
      return paths.get(key);
    };
    for (const n of data.orders[Math.min(nearest, data.orders.length - 1)]) {
      const opaque = data.opaque[n];
      const opacity = opaque ? this.opacity(opaque, at) : 1;
      if (opacity <= 0.02) continue;
      const [tone, of, kind, x, y, clip, weights, line] = data.layers[n];
      const curved = kind & 1,
        closed = kind & 2 ? 1 : 0;
      pen.save();
      pen.globalAlpha = opacity;
      if (clip >= 0) pen.clip(path(clip, 1, 1));
      if (x || y) pen.translate(x, y);
      const shape =
        weights >= 0
          ? pathOf(grown(outline(of), data.sets[weights][0], data.gap), curved, closed)
          : path(of, curved, closed);
      if (LINES.has(tone)) {
        pen.strokeStyle = data.tones[tone];
        pen.lineWidth = line;
        pen.setLineDash(DASHED[tone] ?? []);
        pen.stroke(shape);
      } else {
        pen.fillStyle = data.tones[tone];
        pen.fill(shape);
      }
      pen.restore();
    }
  }
  opacity(moments, at) {
    const low = Math.min(Math.floor(at), moments.length - 1),
      next = Math.min(low + 1, moments.length - 1);
    return moments[low] + (moments[next] - moments[low]) * (at - low);
  }
  letter(pen) {
    const { data } = this;
    if (!this.sign || !data.letter) return;
    const [left, y] = data.letter,
      x = this.mirrored ? data.units - left : left,
      r = data.units * 0.045;
    pen.beginPath();
    pen.arc(x, y, r, 0, 2 * Math.PI);
    pen.fillStyle = data.tones.tag;
    pen.fill();
    pen.strokeStyle = data.tones.letter;
    pen.lineWidth = r / 6;
    pen.stroke();
    pen.fillStyle = data.tones.letter;
    pen.font = `700 ${Math.round(r * 1.2)}px sans-serif`;
    pen.textAlign = "center";
    pen.textBaseline = "alphabetic";
    pen.fillText(this.sign, x, y + r * 0.43);
  }
  gone() {
    this.sized.disconnect();
  }
}

// The figure of a holder, ``<span class="live" data-figure data-sign data-flip>``: drawn on a canvas over its still picture
// when its drawing is there. The still picture stays where it never comes.
export async function live(holder, { mirrored = false } = {}) {
  const { figure, sign, flip } = holder.dataset;
  const data = await load(figure);
  if (!data || !holder.isConnected) return null;
  const made = new Figure(data, { sign, mirrored: (flip === "yes") !== mirrored });
  holder.replaceChildren(made.canvas);
  made.show(made.still, 0);
  return made;
}
