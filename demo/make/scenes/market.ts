/** What every shot of the pier shares: dusk, sea, planks, strings of bulbs, far lights, seeded chance. */
import * as THREE from 'three';

/** Repeatable random numbers in [0, 1) (mulberry32, Tommy Ettinger 2017). */
export function seededRandom(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) >>> 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** 0 before `a`, 1 after `b`, eased between. */
export function smoothstep(a: number, b: number, x: number): number {
  const t = Math.min(1, Math.max(0, (x - a) / (b - a)));
  return t * t * (3 - 2 * t);
}

/** Slow wandering in [-1, 1], a sum of sines that never repeats within a clip. */
export function wander(timeS: number, phase: number): number {
  return (
    0.5 * Math.sin(timeS * 1.3 + phase * 7.1) +
    0.3 * Math.sin(timeS * 2.9 + phase * 3.7) +
    0.2 * Math.sin(timeS * 5.3 + phase * 11.3)
  );
}

function canvasTexture(width: number, height: number, draw: (c: CanvasRenderingContext2D) => void) {
  const canvas = document.createElement('canvas');
  canvas.width = width;
  canvas.height = height;
  draw(canvas.getContext('2d')!);
  const texture = new THREE.CanvasTexture(canvas);
  texture.wrapS = texture.wrapT = THREE.RepeatWrapping;
  texture.colorSpace = THREE.SRGBColorSpace;
  texture.anisotropy = 4;
  return texture;
}

/** Weathered boards with grain, gaps and nails. */
export function plankTexture(seed: number, tone: string): THREE.CanvasTexture {
  const random = seededRandom(seed);
  return canvasTexture(512, 512, (c) => {
    for (let row = 0; row < 8; row++) {
      c.fillStyle = tone;
      c.fillRect(0, row * 64, 512, 64);
      c.fillStyle = `rgba(0,0,0,${0.08 + random() * 0.3})`;
      c.fillRect(0, row * 64, 512, 64);
      for (let i = 0; i < 60; i++) {
        c.strokeStyle = random() < 0.5 ? 'rgba(0,0,0,0.16)' : 'rgba(255,235,205,0.07)';
        c.lineWidth = 0.5 + random() * 1.5;
        const y = row * 64 + random() * 64;
        c.beginPath();
        c.moveTo(0, y);
        c.bezierCurveTo(160, y + random() * 8 - 4, 340, y + random() * 8 - 4, 512, y);
        c.stroke();
      }
      c.fillStyle = 'rgba(0,0,0,0.85)';
      c.fillRect(0, row * 64, 512, 3);
      const seam = random() * 512;
      c.fillRect(seam, row * 64, 3, 64);
      c.beginPath();
      c.arc(seam + 12, row * 64 + 14, 2.5, 0, 7);
      c.arc(seam + 12, row * 64 + 50, 2.5, 0, 7);
      c.fill();
    }
  });
}

/** Coarse paper or cloth: fibres and blotches over one tone. */
export function fibreTexture(seed: number, tone: string, contrast = 0.12): THREE.CanvasTexture {
  const random = seededRandom(seed);
  return canvasTexture(512, 512, (c) => {
    c.fillStyle = tone;
    c.fillRect(0, 0, 512, 512);
    for (let i = 0; i < 2600; i++) {
      c.strokeStyle =
        random() < 0.5 ? `rgba(0,0,0,${random() * contrast})` : `rgba(255,255,255,${random() * contrast})`;
      c.lineWidth = 0.5 + random() * 2;
      const x = random() * 512;
      const y = random() * 512;
      const angle = random() * 6.3;
      c.beginPath();
      c.moveTo(x, y);
      c.lineTo(x + Math.cos(angle) * 26, y + Math.sin(angle) * 26);
      c.stroke();
    }
  });
}

const discTexture = () =>
  canvasTexture(128, 128, (c) => {
    const g = c.createRadialGradient(64, 64, 0, 64, 64, 62);
    g.addColorStop(0, 'rgba(255,255,255,0.55)');
    g.addColorStop(0.82, 'rgba(255,255,255,0.75)');
    g.addColorStop(0.93, 'rgba(255,255,255,1)');
    g.addColorStop(1, 'rgba(255,255,255,0)');
    c.fillStyle = g;
    c.fillRect(0, 0, 128, 128);
  });

/** A soft round puff, for steam, dust and halos. */
export const puffTexture = () =>
  canvasTexture(128, 128, (c) => {
    const g = c.createRadialGradient(64, 64, 0, 64, 64, 64);
    g.addColorStop(0, 'rgba(255,255,255,0.8)');
    g.addColorStop(0.4, 'rgba(255,255,255,0.3)');
    g.addColorStop(1, 'rgba(255,255,255,0)');
    c.fillStyle = g;
    c.fillRect(0, 0, 128, 128);
  });

/** An additive sprite whose colour may exceed 1 (it blooms). */
export function lightSprite(map: THREE.Texture, color: THREE.Color, size: number): THREE.Sprite {
  const material = new THREE.SpriteMaterial({
    map,
    color,
    blending: THREE.AdditiveBlending,
    depthWrite: false,
    transparent: true,
  });
  const sprite = new THREE.Sprite(material);
  sprite.scale.setScalar(size);
  return sprite;
}

/** Lights of the far side of the bay, out of focus: discs that twinkle a little. */
export class FarLights {
  readonly group = new THREE.Group();
  private readonly base: { sprite: THREE.Sprite; color: THREE.Color; phase: number }[] = [];

  constructor(seed: number, count: number, width: number, y: [number, number], z: number, size: number) {
    const random = seededRandom(seed);
    const disc = discTexture();
    const palette = ['#ffb35c', '#ffd9a0', '#ff6a45', '#7fb0ff', '#ffe9c9', '#ff9a3d', '#c9a0ff'];
    for (let i = 0; i < count; i++) {
      const color = new THREE.Color(palette[Math.floor(random() * palette.length)]);
      color.multiplyScalar(0.12 + 0.75 * random() ** 2);
      const sprite = lightSprite(disc, color.clone(), size * (0.45 + random() * 0.9));
      sprite.position.set((random() - 0.5) * width, y[0] + (y[1] - y[0]) * random() ** 1.8, z - random() * 6);
      this.group.add(sprite);
      this.base.push({ sprite, color, phase: random() * 100 });
    }
  }

  pose(timeS: number): void {
    for (const { sprite, color, phase } of this.base)
      sprite.material.color.copy(color).multiplyScalar(1 + 0.18 * Math.sin(timeS * 3.1 + phase));
  }
}

/** A sagging cable with glowing bulbs, swaying. */
export class BulbString {
  readonly group = new THREE.Group();
  private readonly bulbs: THREE.Mesh[] = [];
  private readonly halos: THREE.Sprite[] = [];

  constructor(
    private readonly from: THREE.Vector3,
    private readonly to: THREE.Vector3,
    private readonly sag: number,
    count: number,
    color: string,
    private readonly phase: number,
  ) {
    const points = Array.from({ length: 25 }, (_, i) => this.at(i / 24));
    const cable = new THREE.Mesh(
      new THREE.TubeGeometry(new THREE.CatmullRomCurve3(points), 48, 0.012, 5),
      new THREE.MeshStandardMaterial({ color: '#0b0908', roughness: 0.9 }),
    );
    this.group.add(cable);
    const glass = new THREE.SphereGeometry(0.055, 14, 10);
    const puff = puffTexture();
    for (let i = 0; i < count; i++) {
      const glow = new THREE.Color(color).multiplyScalar(5);
      const bulb = new THREE.Mesh(glass, new THREE.MeshBasicMaterial({ color: glow }));
      const halo = lightSprite(puff, new THREE.Color(color).multiplyScalar(0.35), 0.8);
      this.group.add(bulb, halo);
      this.bulbs.push(bulb);
      this.halos.push(halo);
    }
  }

  private at(u: number): THREE.Vector3 {
    const p = this.from.clone().lerp(this.to, u);
    p.y -= this.sag * 4 * u * (1 - u);
    return p;
  }

  pose(timeS: number, swayRateHz = 0.5): void {
    const count = this.bulbs.length;
    for (let i = 0; i < count; i++) {
      const p = this.at((i + 0.5) / count);
      const swing = Math.sin(2 * Math.PI * swayRateHz * timeS + this.phase + i * 0.35);
      p.x += 0.03 * swing;
      p.y -= 0.09 + 0.012 * swing;
      this.bulbs[i]!.position.copy(p);
      this.halos[i]!.position.copy(p);
    }
  }
}

/** Dusk behind everything: indigo above, a rose band at the horizon. */
export function duskDome(horizon = '#5d2f3f', top = '#070a1c', low = '#0c0a12'): THREE.Mesh {
  const material = new THREE.ShaderMaterial({
    side: THREE.BackSide,
    depthWrite: false,
    uniforms: {
      horizon: { value: new THREE.Color(horizon) },
      top: { value: new THREE.Color(top) },
      low: { value: new THREE.Color(low) },
    },
    vertexShader: `varying vec3 dir; void main(){ dir = normalize(position); gl_Position = projectionMatrix * modelViewMatrix * vec4(position, 1.0); }`,
    fragmentShader: `uniform vec3 horizon, top, low; varying vec3 dir;
      float h(vec2 p){ return fract(sin(dot(p, vec2(41.3, 289.1))) * 45758.5); }
      float n(vec2 p){ vec2 i = floor(p), f = fract(p); f = f*f*(3.0-2.0*f);
        return mix(mix(h(i), h(i+vec2(1,0)), f.x), mix(h(i+vec2(0,1)), h(i+vec2(1,1)), f.x), f.y); }
      void main(){ vec3 d = normalize(dir); float y = d.y;
        vec3 c = y > 0.0 ? mix(horizon, top, pow(clamp(y * 2.4, 0.0, 1.0), 0.55)) : mix(horizon * 0.35, low, clamp(-y * 6.0, 0.0, 1.0));
        vec2 q = vec2(atan(d.x, -d.z) * 3.0, y * 14.0);
        float cloud = n(q) * 0.55 + n(q * 2.3) * 0.3 + n(q * 5.1) * 0.15;
        c *= 0.7 + 0.7 * smoothstep(0.35, 0.8, cloud) * exp(-abs(y - 0.12) * 6.0);
        gl_FragColor = vec4(c, 1.0); }`,
  });
  return new THREE.Mesh(new THREE.SphereGeometry(60, 48, 32), material);
}

/** Night water with long glittering reflections that run toward the camera. */
export function nightSea(): { mesh: THREE.Mesh; pose(timeS: number): void } {
  const material = new THREE.ShaderMaterial({
    uniforms: { time: { value: 0 } },
    vertexShader: `varying vec3 w; void main(){ vec4 p = modelMatrix * vec4(position, 1.0); w = p.xyz; gl_Position = projectionMatrix * viewMatrix * p; }`,
    fragmentShader: `uniform float time; varying vec3 w;
      float h(vec2 p){ return fract(sin(dot(p, vec2(12.7, 78.2))) * 43758.5); }
      float n(vec2 p){ vec2 i = floor(p), f = fract(p); f = f*f*(3.0-2.0*f);
        return mix(mix(h(i), h(i+vec2(1,0)), f.x), mix(h(i+vec2(0,1)), h(i+vec2(1,1)), f.x), f.y); }
      void main(){ vec3 v = normalize(w - cameraPosition);
        float r = n(w.xz * vec2(1.2, 5.0) + vec2(time * 0.3, time * 0.9)) * 0.6 + n(w.xz * vec2(3.0, 14.0) - vec2(time * 0.5, time * 1.7)) * 0.4;
        float lane = pow(n(vec2(v.x / max(0.05, -v.z) * 14.0 + r * 1.3, 3.0)), 3.0);
        float crest = smoothstep(0.56, 0.8, r);
        vec3 c = vec3(0.006, 0.009, 0.018) + crest * lane * vec3(1.5, 0.7, 0.28) + crest * 0.05 * vec3(0.4, 0.3, 0.5);
        gl_FragColor = vec4(c * exp(-max(0.0, -w.z) * 0.02), 1.0); }`,
  });
  const mesh = new THREE.Mesh(new THREE.PlaneGeometry(120, 60), material);
  mesh.rotation.x = -Math.PI / 2;
  mesh.position.set(0, -1.2, -34);
  return {
    mesh,
    pose: (timeS) => {
      material.uniforms['time']!.value = timeS;
    },
  };
}

/** A lamp that casts shadows; `size` is the half width of what it lights. */
export function shadowLamp(color: string, intensity: number, at: THREE.Vector3): THREE.SpotLight {
  const lamp = new THREE.SpotLight(color, intensity, 0, 0.8, 0.7, 1.6);
  lamp.position.copy(at);
  lamp.castShadow = true;
  lamp.shadow.mapSize.set(1024, 1024);
  lamp.shadow.bias = -0.0015;
  lamp.shadow.radius = 3;
  return lamp;
}

/** A mesh that casts and receives shadows. */
export function solid(geometry: THREE.BufferGeometry, material: THREE.Material): THREE.Mesh {
  const mesh = new THREE.Mesh(geometry, material);
  mesh.castShadow = true;
  mesh.receiveShadow = true;
  return mesh;
}
