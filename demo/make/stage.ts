/**
 * The offline camera of the demo clips: renders a Three.js scene several times inside each shutter
 * interval, adds the samples up in linear light, then blooms, tone-maps and grains the sum.
 * Runs in headless Chromium on software WebGL, as slowly as it needs.
 */
import * as THREE from 'three';

/** A scene that can be drawn at any instant. */
export interface Shot {
  readonly scene: THREE.Scene;
  readonly camera: THREE.PerspectiveCamera;
  /** Puts everything where it is at `timeS` seconds. Must not depend on earlier calls. */
  pose(timeS: number): void;
  readonly exposure?: number;
}

const FULLSCREEN = `varying vec2 uvv; void main(){ uvv = uv; gl_Position = vec4(position.xy, 0.0, 1.0); }`;

const ADD = `uniform sampler2D src; uniform float weight; varying vec2 uvv;
void main(){ gl_FragColor = vec4(min(texture2D(src, uvv).rgb, vec3(24.0)) * weight, 1.0); }`;

const BRIGHT_BLUR = `uniform sampler2D src; uniform vec2 stepUv; uniform float knee; varying vec2 uvv;
void main(){ vec3 sum = vec3(0.0); float total = 0.0;
  for (int i = -6; i <= 6; i++) { float w = exp(-float(i*i) / 14.0);
    vec3 c = texture2D(src, uvv + stepUv * float(i)).rgb; sum += w * max(c - knee, 0.0); total += w; }
  gl_FragColor = vec4(sum / total, 1.0); }`;

const DEVELOP = `uniform sampler2D src, glowNear, glowFar; uniform float exposure, seed; varying vec2 uvv;
vec3 aces(vec3 x){ return clamp((x*(2.51*x+0.03))/(x*(2.43*x+0.59)+0.14), 0.0, 1.0); }
float hash(vec2 p){ return fract(sin(dot(p, vec2(12.9898,78.233)) + seed) * 43758.5453); }
void main(){ vec3 c = texture2D(src, uvv).rgb + 0.28 * texture2D(glowNear, uvv).rgb + 0.30 * texture2D(glowFar, uvv).rgb;
  float edge = length((uvv - 0.5) * vec2(1.1, 0.9)); c *= 1.0 - 0.75 * smoothstep(0.3, 0.85, edge);
  vec3 s = pow(aces(c * exposure), vec3(1.0 / 2.2));
  s = mix(s, s * s * (3.0 - 2.0 * s), 0.25) + vec3(0.010, 0.010, 0.016);
  s += (hash(gl_FragCoord.xy) - 0.5) * 0.022;
  gl_FragColor = vec4(s, 1.0); }`;

function pass(fragmentShader: string, uniforms: Record<string, THREE.IUniform>, additive = false) {
  const material = new THREE.ShaderMaterial({
    vertexShader: FULLSCREEN,
    fragmentShader,
    uniforms,
    depthTest: false,
    depthWrite: false,
    blending: additive ? THREE.AdditiveBlending : THREE.NoBlending,
    transparent: additive,
  });
  const scene = new THREE.Scene();
  const mesh = new THREE.Mesh(new THREE.PlaneGeometry(2, 2), material);
  mesh.frustumCulled = false;
  scene.add(mesh);
  return { scene, uniforms: material.uniforms };
}

/** Draws shots at one picture size onto one canvas. */
export class Stage {
  readonly canvas: HTMLCanvasElement;
  private readonly renderer: THREE.WebGLRenderer;
  private readonly sample: THREE.WebGLRenderTarget;
  private readonly sum: THREE.WebGLRenderTarget;
  private readonly glow: THREE.WebGLRenderTarget[];
  private readonly camera = new THREE.OrthographicCamera(-1, 1, 1, -1, 0, 1);
  private readonly add = pass(ADD, { src: { value: null }, weight: { value: 1 } }, true);
  private readonly blur = pass(BRIGHT_BLUR, {
    src: { value: null },
    stepUv: { value: new THREE.Vector2() },
    knee: { value: 0 },
  });
  private readonly develop = pass(DEVELOP, {
    src: { value: null },
    glowNear: { value: null },
    glowFar: { value: null },
    exposure: { value: 1 },
    seed: { value: 0 },
  });

  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.renderer = new THREE.WebGLRenderer({ preserveDrawingBuffer: true, antialias: false });
    this.renderer.setSize(width, height, false);
    this.renderer.outputColorSpace = THREE.LinearSRGBColorSpace;
    this.renderer.shadowMap.enabled = true;
    this.renderer.shadowMap.type = THREE.PCFShadowMap;
    this.renderer.autoClear = false;
    this.canvas = this.renderer.domElement;
    const target = (w: number, h: number, type: THREE.TextureDataType, depthBuffer: boolean) =>
      new THREE.WebGLRenderTarget(w, h, { type, depthBuffer });
    this.sample = target(width, height, THREE.HalfFloatType, true);
    this.sum = target(width, height, THREE.FloatType, false);
    this.glow = [4, 4, 16, 16].map((d) =>
      target(Math.ceil(width / d), Math.ceil(height / d), THREE.HalfFloatType, false),
    );
  }

  /** Exposes one frame: `samples` instants spread over half of the frame's duration (a 180 degree shutter). */
  expose(shot: Shot, frame: number, rateHz: number, samples: number): void {
    const { renderer, camera } = this;
    renderer.setRenderTarget(this.sum);
    renderer.setClearColor(0, 1);
    renderer.clear();
    for (let i = 0; i < samples; i++) {
      shot.pose((frame + (0.5 * (i + 0.5)) / samples) / rateHz);
      const dx = ((i * 0.618034) % 1) - 0.5;
      const dy = ((i * 0.381966 + 0.25) % 1) - 0.5;
      shot.camera.setViewOffset(this.width, this.height, dx, dy, this.width, this.height);
      renderer.setRenderTarget(this.sample);
      renderer.clear();
      renderer.render(shot.scene, shot.camera);
      this.add.uniforms['src']!.value = this.sample.texture;
      this.add.uniforms['weight']!.value = 1 / samples;
      renderer.setRenderTarget(this.sum);
      renderer.render(this.add.scene, camera);
    }
    const [nearA, nearB, farA, farB] = this.glow as [
      THREE.WebGLRenderTarget,
      THREE.WebGLRenderTarget,
      THREE.WebGLRenderTarget,
      THREE.WebGLRenderTarget,
    ];
    this.blurInto(this.sum, nearA, 1, 0, 0.9);
    this.blurInto(nearA, nearB, 0, 1, 0);
    this.blurInto(nearB, farA, 1, 0, 0);
    this.blurInto(farA, farB, 0, 1, 0);
    this.develop.uniforms['src']!.value = this.sum.texture;
    this.develop.uniforms['glowNear']!.value = nearB.texture;
    this.develop.uniforms['glowFar']!.value = farB.texture;
    this.develop.uniforms['exposure']!.value = shot.exposure ?? 1;
    this.develop.uniforms['seed']!.value = (frame * 7.13) % 97;
    renderer.setRenderTarget(null);
    renderer.render(this.develop.scene, camera);
  }

  private blurInto(
    from: THREE.WebGLRenderTarget,
    to: THREE.WebGLRenderTarget,
    x: number,
    y: number,
    knee: number,
  ): void {
    this.blur.uniforms['src']!.value = from.texture;
    this.blur.uniforms['stepUv']!.value = new THREE.Vector2(x / to.width, y / to.height);
    this.blur.uniforms['knee']!.value = knee;
    this.renderer.setRenderTarget(to);
    this.renderer.render(this.blur.scene, this.camera);
  }
}
