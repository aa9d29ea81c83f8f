// Draws Larkfell's pictures as vector scenes and renders them to PNG and JPEG with Chromium.
// Run after `npm ci` in tests/browser:  node demo/draw-pictures.mjs
import { writeFileSync } from "node:fs";
import { createRequire } from "node:module";

const require = createRequire(new URL("../tests/browser/package.json", import.meta.url));
const { chromium } = require("@playwright/test");

const green = "#1f3a34",
  red = "#8e2a1c",
  cream = "#f4e9d2",
  soot = "#25302b",
  moor = "#6f8f7c",
  pale = "#9db5a5",
  stone = "#3b302c",
  gold = "#d9a441";

const rect = (x, y, w, h, fill, r = 0) => `<rect x="${x}" y="${y}" width="${w}" height="${h}" rx="${r}" fill="${fill}"/>`;
const circle = (x, y, r, fill, more = "") => `<circle cx="${x}" cy="${y}" r="${r}" fill="${fill}" ${more}/>`;
const path = (d, fill, more = "") => `<path d="${d}" fill="${fill}" ${more}/>`;
const sky = (w, h, a, b) =>
  `<defs><linearGradient id="sky" x1="0" y1="0" x2="0" y2="1"><stop offset="0" stop-color="${a}"/><stop offset="1" stop-color="${b}"/></linearGradient></defs>${rect(0, 0, w, h, "url(#sky)")}`;
const hills = (w, h, y, fill, lift) =>
  path(
    `M0 ${y} C ${w * 0.2} ${y - lift}, ${w * 0.35} ${y - lift * 0.2}, ${w * 0.55} ${y - lift * 0.6} S ${w * 0.9} ${y - lift * 1.3}, ${w} ${y - lift * 0.4} V ${h} H 0 Z`,
    fill,
  );
const wheel = (x, y, r) => circle(x, y, r, soot) + circle(x, y, r * 0.62, red) + circle(x, y, r * 0.2, soot);

const engine = (x, y, body = green) => `<g transform="translate(${x} ${y})">
  ${rect(0, -92, 66, 84, body, 4)}${rect(12, -80, 40, 30, cream, 2)}${rect(-8, -102, 82, 12, soot, 3)}
  ${rect(62, -66, 150, 50, body, 22)}${rect(92, -68, 6, 54, gold)}${rect(150, -68, 6, 54, gold)}
  ${rect(176, -112, 24, 50, soot, 2)}${rect(170, -118, 36, 10, soot, 3)}${circle(122, -70, 14, gold)}${rect(108, -70, 28, 8, body)}
  ${rect(206, -60, 12, 40, soot, 3)}${rect(-6, -16, 232, 14, red, 2)}${path("M226 -4 L250 0 L226 6 Z", red)}
  ${wheel(30, 2, 24)}${wheel(92, 2, 24)}${wheel(150, 2, 24)}${wheel(202, 10, 14)}<rect x="30" y="0" width="122" height="7" rx="3" fill="${cream}"/></g>`;
const coach = (
  x,
  y,
  colour = red,
) => `<g transform="translate(${x} ${y})">${rect(0, -84, 210, 74, colour, 5)}${rect(-4, -94, 218, 14, soot, 6)}
  ${[12, 52, 92, 132, 172].map((i) => rect(i, -70, 28, 28, cream, 3)).join("")}${rect(0, -32, 210, 5, gold)}${rect(4, -12, 202, 10, soot)}${wheel(38, 6, 16)}${wheel(172, 6, 16)}</g>`;
const steam = (x, y, fill = "#ffffff", o = 0.9) =>
  [
    [0, 0, 24],
    [-34, -30, 32],
    [-84, -52, 42],
    [-150, -70, 50],
    [-226, -80, 40],
  ]
    .map(([dx, dy, r]) => circle(x + dx, y + dy, r, fill, `opacity="${o}"`))
    .join("");
const viaduct = (w, y, h) =>
  rect(0, y, w, 26, stone) +
  Array.from({ length: Math.ceil(w / 160) + 1 }, (_, i) => {
    const x = i * 160 - 40;
    return (
      rect(x, y, 52, h, stone) +
      path(`M${x + 52} ${y + 20} H ${x + 160} V ${y + 120} C ${x + 156} ${y + 50}, ${x + 56} ${y + 50}, ${x + 52} ${y + 120} Z`, stone)
    );
  }).join("");
const flowers = (w, y, n, colours) =>
  Array.from({ length: n }, (_, i) => {
    const x = (i * 977) % w,
      dy = (i * 389) % 90;
    return (
      `<path d="M${x} ${y + dy} q 3 18 0 34" stroke="#4b6a57" stroke-width="4" fill="none"/>` +
      circle(x, y + dy, 9 + (i % 3) * 2, colours[i % colours.length])
    );
  }).join("");
const words = (x, y, size, text, fill, more = "") =>
  `<text x="${x}" y="${y}" font-family="Georgia,'DejaVu Serif',serif" font-size="${size}" fill="${fill}" ${more}>${text}</text>`;

const scenes = {
  "viaduct.jpg": [
    1280,
    640,
    sky(1280, 640, "#dfe8e1", "#f3efe2") +
      hills(1280, 640, 430, pale, 190) +
      hills(1280, 640, 520, moor, 90) +
      steam(760, 170) +
      coach(250, 318) +
      coach(474, 318) +
      engine(700, 310) +
      viaduct(1280, 336, 310) +
      hills(1280, 640, 640, green, 60),
  ],
  "lamplighter.jpg": [
    1280,
    640,
    sky(1280, 640, "#152033", "#4a3a55") +
      circle(1050, 130, 58, "#f4e9d2") +
      circle(1030, 118, 52, "#1d2740") +
      hills(1280, 640, 470, "#24324a", 170) +
      hills(1280, 640, 540, "#1a2638", 80) +
      rect(0, 560, 1280, 80, "#11192a") +
      steam(900, 330, "#cfd4de", 0.5) +
      coach(150, 548, "#5d1f17") +
      coach(384, 548, "#5d1f17") +
      coach(618, 548, "#5d1f17") +
      engine(850, 540, "#16302a") +
      [90, 330, 570, 810, 1170]
        .map((x) => rect(x, 420, 8, 150, "#0d1422") + circle(x + 4, 404, 44, gold, 'opacity="0.22"') + circle(x + 4, 404, 17, "#ffd98a"))
        .join(""),
  ],
  "platform.jpg": [
    1280,
    640,
    sky(1280, 640, "#e9e4d3", "#f7f2e5") +
      hills(1280, 640, 380, pale, 130) +
      rect(0, 470, 1280, 170, "#c9bda3") +
      rect(0, 470, 1280, 16, cream) +
      rect(60, 200, 420, 270, "#a8765a") +
      path("M20 210 L270 90 L520 210 Z", stone) +
      [100, 210, 320, 410].map((x) => rect(x, 280, 60, 90, cream, 4)).join("") +
      rect(250, 360, 70, 110, green, 4) +
      rect(620, 250, 12, 230, green) +
      rect(540, 230, 240, 60, green, 6) +
      words(660, 272, 34, "LARKFELL", cream, 'text-anchor="middle" letter-spacing="4"') +
      circle(860, 280, 56, soot) +
      circle(860, 280, 46, "#fff") +
      `<path d="M860 280 V246 M860 280 L884 292" stroke="${soot}" stroke-width="6"/>` +
      rect(856, 336, 8, 140, soot) +
      [960, 1080]
        .map(
          (x) =>
            rect(x, 420, 96, 10, red, 2) + rect(x + 8, 430, 8, 44, soot) + rect(x + 80, 430, 8, 44, soot) + rect(x, 392, 96, 8, red, 2),
        )
        .join(""),
  ],
  "boiler.jpg": [
    1280,
    960,
    '<g transform="scale(1.3333)">' +
      sky(960, 720, "#3d3a36", "#57504a") +
      rect(0, 600, 960, 120, "#2c2825") +
      [120, 360, 600, 840]
        .map((x) => rect(x - 60, 60, 120, 170, "#cfd8d2", 4) + rect(x - 4, 60, 8, 170, "#3d3a36") + rect(x - 60, 140, 120, 8, "#3d3a36"))
        .join("") +
      rect(150, 330, 640, 230, green, 110) +
      [230, 370, 510, 650].map((x) => rect(x, 326, 12, 238, gold)).join("") +
      circle(790, 445, 112, soot) +
      circle(790, 445, 92, "#3d4a44") +
      Array.from({ length: 19 }, (_, i) => circle(790 + 72 * Math.cos(i / 3), 445 + (18 + (i % 3) * 24) * Math.sin(i / 3), 8, soot)).join(
        "",
      ) +
      rect(330, 260, 60, 80, soot, 4) +
      [220, 680].map((x) => path(`M${x} 560 l-40 60 h120 l-40 -60 Z`, "#8a6b3f")).join("") +
      "</g>",
  ],
  "tearoom.jpg": [
    1280,
    960,
    '<g transform="scale(1.3333)">' +
      rect(0, 0, 960, 720, "#f6dfd0") +
      rect(0, 500, 960, 220, "#b8574a") +
      rect(0, 500, 960, 14, "#8f3f35") +
      circle(760, 190, 130, "#fbeee4") +
      circle(760, 190, 112, "#cfe0dc") +
      rect(754, 78, 12, 224, "#fbeee4") +
      rect(648, 184, 224, 12, "#fbeee4") +
      path("M250 330 h220 c0 130 -40 190 -110 190 s-110 -60 -110 -190 Z", "#fff") +
      path("M470 360 c80 -10 80 100 -20 96 v-26 c50 0 50 -50 16 -46 Z", "#fff") +
      `<ellipse cx="360" cy="332" rx="110" ry="22" fill="#8a5a3a"/>` +
      `<ellipse cx="360" cy="528" rx="180" ry="22" fill="#fbeee4"/>` +
      `<path d="M320 290 c-20 -40 20 -50 0 -90 M370 290 c-20 -40 20 -50 0 -90" stroke="#fff" stroke-width="10" fill="none" stroke-linecap="round"/>` +
      path("M600 520 c0 -90 220 -90 220 0 Z", "#d79b5b") +
      [640, 690, 740, 785].map((x, i) => circle(x, 474 + (i % 2) * 14, 10, "#5b2b22")).join("") +
      `<ellipse cx="710" cy="528" rx="150" ry="18" fill="#fff"/></g>`,
  ],
  "shelf.jpg": [
    1280,
    960,
    '<g transform="scale(1.3333)">' +
      rect(0, 0, 960, 720, "#e8efe9") +
      rect(0, 330, 960, 24, "#8a6b3f") +
      rect(0, 650, 960, 24, "#8a6b3f") +
      rect(90, 190, 120, 140, green, 10) +
      path("M210 220 c60 0 60 80 0 80 v-20 c32 0 32 -40 0 -40 Z", green) +
      words(150, 275, 46, "L", cream, 'text-anchor="middle"') +
      [280, 330, 372, 424].map((x, i) => rect(x, 150 + i * 10, 38, 180 - i * 10, [red, moor, stone, gold][i], 3)).join("") +
      rect(540, 250, 300, 80, red, 8) +
      rect(560, 226, 260, 34, cream, 6) +
      [600, 660, 720, 780].map((x) => rect(x, 226, 12, 104, gold)).join("") +
      engine(120, 626) +
      coach(420, 632, moor) +
      path("M720 650 v-120 q70 -70 140 0 v120 Z", gold) +
      circle(790, 560, 30, cream) +
      "</g>",
  ],
  "volunteers.jpg": [
    1280,
    640,
    sky(1280, 640, "#d5e6ea", "#eef3e6") +
      hills(1280, 640, 360, pale, 140) +
      hills(1280, 640, 430, moor, 60) +
      rect(0, 470, 1280, 12, stone) +
      Array.from({ length: 24 }, (_, i) => rect(i * 56, 482, 34, 12, "#6b5a48")).join("") +
      rect(0, 494, 1280, 146, "#7f9a6c") +
      flowers(1280, 510, 60, ["#f2c14e", "#e07a5f", "#ffffff", "#b08bbb"]) +
      [
        [330, red],
        [520, green],
        [720, "#d98c2b"],
        [930, "#3a5a7d"],
      ]
        .map(
          ([x, c], i) =>
            circle(x, 300, 30, "#c99273") +
            path(`M${x - 34} 298 a34 34 0 0 1 68 0 Z`, ["#d9a441", soot, red, cream][i]) +
            rect(x - 36, 330, 72, 100, c, 22) +
            rect(x - 30, 420, 24, 56, soot, 6) +
            rect(x + 6, 420, 24, 56, soot, 6) +
            `<path d="M${x + 40} 350 L${x + 86} 470" stroke="#8a6b3f" stroke-width="9"/>`,
        )
        .join(""),
  ],
  "ticket.png": [
    960,
    400,
    rect(0, 0, 960, 400, "#eef1ec") +
      `<g transform="rotate(-4 480 200)">` +
      rect(150, 70, 660, 260, cream, 14) +
      circle(150, 200, 30, "#eef1ec") +
      circle(810, 200, 30, "#eef1ec") +
      `<path d="M620 80 V320" stroke="${moor}" stroke-width="4" stroke-dasharray="10 10"/>` +
      words(200, 150, 44, "LARKFELL", green, 'letter-spacing="6"') +
      words(200, 210, 30, "to Harrow Viaduct", soot) +
      words(200, 270, 26, "Third class, return", moor) +
      words(715, 190, 60, "No.", red, 'text-anchor="middle"') +
      words(715, 260, 64, "4", red, 'text-anchor="middle" font-weight="bold"') +
      `</g>`,
  ],
  "logo.png": [
    400,
    120,
    `<g fill="${cream}">` +
      `<path d="M30 74 C50 34 78 24 112 30 L92 44 C84 70 64 84 30 74 Z"/><path d="M62 48 C78 40 98 54 86 70 C74 66 66 58 62 48 Z" fill="${green}"/>` +
      rect(20, 88, 104, 6, cream) +
      [26, 52, 78, 104].map((x) => rect(x, 94, 12, 10, cream)).join("") +
      `</g>` +
      words(144, 74, 54, "Larkfell", cream) +
      words(146, 103, 19, "HERITAGE RAILWAY", cream, 'letter-spacing="1.8"'),
  ],
  "tearooms-logo.png": [
    400,
    120,
    path("M30 40 h64 c0 44 -12 62 -32 62 s-32 -18 -32 -62 Z", "#8f3f35") +
      path("M94 50 c28 -4 28 34 -8 32 v-9 c18 0 18 -16 6 -15 Z", "#8f3f35") +
      words(144, 74, 54, "Larkfell", "#5b2b22") +
      words(146, 104, 21, "TEAROOMS", "#8f3f35", 'letter-spacing="6"'),
  ],
};

const browser = await chromium.launch({
  executablePath: "/usr/bin/chromium",
  args: ["--no-sandbox", "--disable-gpu", "--disable-background-networking"],
});
for (const [name, [width, height, body]] of Object.entries(scenes)) {
  const page = await browser.newPage({ viewport: { width, height } });
  await page.setContent(
    `<style>body{margin:0}</style><svg xmlns="http://www.w3.org/2000/svg" width="${width}" height="${height}" style="display:block">${body}</svg>`,
  );
  const type = name.endsWith("jpg") ? "jpeg" : "png";
  writeFileSync(
    new URL(`larkfell/pictures/${name}`, import.meta.url),
    await page.screenshot({ type, omitBackground: type === "png", ...(type === "jpeg" ? { quality: 82 } : {}) }),
  );
  await page.close();
}
await browser.close();
