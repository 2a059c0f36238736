import * as Tone from "tone";
import type { Sound } from "../api/gen/piece.gen";
import { Desk } from "./desk";
import type { Voice } from "./voices";

/** What tells one polyphonic voice from another. Times are in seconds. */
export interface Timbre {
  /** The partials from the fundamental up, as shares of it, by the lane's wave. */
  partials: (wave: string) => readonly number[];
  /** How far its two oscillators stand apart, in cents. */
  apart: number;
  attack: number;
  /** How long it dies away at decay 100; 0: it holds. */
  decays: number;
  /** The level that it holds at, 0..1. */
  holds: number;
  release: number;
}

/** Warm keys: struck, rounder the softer they are played. */
export const warmKeys: Timbre = {
  partials: () => [1, 0.42, 0.16, 0.1, 0.05, 0.03],
  apart: 5,
  attack: 0.005,
  decays: 3.2,
  holds: 0.22,
  release: 0.22,
};

/** A pad: it swells and holds. */
export const pad: Timbre = {
  partials: () => [1, 0.6, 0.34, 0.3, 0.18, 0.14, 0.1, 0.07],
  apart: 13,
  attack: 0.16,
  decays: 0,
  holds: 1,
  release: 0.75,
};

/** A plucked synth for several notes at once: two oscillators apart, brighter the harder it
 * is struck, with a release that lets it ring. */
export const plucks: Timbre = {
  partials: (wave) => Array.from({ length: 24 }, (_, i) => (wave === "pulse" && i % 2 ? 0 : 1 / (i + 1))),
  apart: 12,
  attack: 0.003,
  decays: 1.1,
  holds: 0.02,
  release: 0.3,
};

/** How far full pressure opens the filters, in octaves. */
const PRESSED = 1.5;

/** The most notes that sound at once; the oldest gives way. */
const MOST = 32;

/** One note: two oscillators through a filter of its own. */
interface Note {
  midi: number;
  oscillators: OscillatorNode[];
  filter: BiquadFilterNode;
  amp: GainNode;
  end: number;
  let: boolean;
}

/**
 * A polyphonic voice. It honours velocity, the wheel with its range, modulation (1),
 * volume (7), pan (10), expression (11), the pedal (64), resonance (71), brightness
 * (74) and pressure. Portamento (5, 65) is for single voices.
 */
export class Poly implements Voice {
  private readonly context = Tone.getContext().rawContext as unknown as AudioContext;
  private wave: PeriodicWave | null = null;
  /** The wheel and the vibrato, in cents, for all notes. */
  private readonly wheel = this.context.createConstantSource();
  private readonly vibrato = this.context.createOscillator();
  private readonly depth = this.context.createGain();
  private readonly bus = this.context.createGain();
  private readonly desk: Desk;
  private readonly echo = new Tone.FeedbackDelay({ delayTime: 0.29, feedback: 0.32, wet: 0 });
  private readonly level = new Tone.Gain(0.5);
  private notes: Note[] = [];
  private key = "";
  private sound: Sound | null = null;
  private range = 2;
  private parameter: [number, number] = [127, 127];
  private brightness = 64;
  private resonance = 64;
  private pressure = 0;
  private pedal = false;

  constructor(
    out: Tone.InputNode,
    private readonly timbre: Timbre,
  ) {
    this.wheel.offset.value = 0;
    this.wheel.start();
    this.vibrato.frequency.value = 5.2;
    this.depth.gain.value = 0;
    this.vibrato.connect(this.depth);
    this.vibrato.start();
    this.desk = new Desk(out);
    Tone.connect(this.bus, this.echo);
    this.echo.chain(this.level, this.desk.in);
  }

  set(sound: Sound): void {
    const key = JSON.stringify(sound);
    if (key === this.key) return;
    this.key = key;
    if (sound.wave !== this.sound?.wave || !this.wave) {
      const imag = new Float32Array([0, ...this.timbre.partials(sound.wave)]);
      this.wave = this.context.createPeriodicWave(new Float32Array(imag.length), imag);
    }
    this.sound = sound;
    this.echo.wet.rampTo((sound.delay / 100) * 0.5, 0.05);
    this.level.gain.rampTo((sound.level / 100) ** 1.6 * 0.42, 0.02);
  }

  strike(time: number, end: number, midi: number, velocity: number): void {
    const { context, timbre, sound, wave } = this;
    if (!sound || !wave) return;
    const held = this.notes.filter((n) => !n.let);
    for (const old of held) if (old.midi === midi) this.release(old, time);
    if (held.length >= MOST) this.release(held[0]!, time);
    const force = velocity / 127;
    const hertz = Tone.Frequency(midi, "midi").toFrequency();
    const filter = context.createBiquadFilter();
    const amp = context.createGain();
    filter.type = "lowpass";
    filter.Q.value = this.sharpness;
    const open = 220 * 2 ** ((sound.cutoff / 100) * 5.6);
    filter.detune.value = this.cents;
    const bright = open * 2 ** ((sound.envelope / 100) * 2.4 * force + (midi - 60) / 36);
    const decay = 0.15 + (sound.decay / 100) * timbre.decays;
    filter.frequency.setValueAtTime(Math.min(bright, 16000), time);
    if (timbre.decays) filter.frequency.setTargetAtTime(Math.min(open, 12000), time, decay * 0.6);
    const loud = 0.03 + 0.12 * force ** 1.5;
    amp.gain.setValueAtTime(0, time);
    amp.gain.linearRampToValueAtTime(loud, time + timbre.attack);
    if (timbre.decays) amp.gain.setTargetAtTime(loud * timbre.holds, time + timbre.attack, decay);
    const oscillators = [-1, 1].map((side) => {
      const oscillator = context.createOscillator();
      oscillator.setPeriodicWave(wave);
      oscillator.frequency.value = hertz;
      oscillator.detune.value = (side * timbre.apart) / 2;
      this.wheel.connect(oscillator.detune);
      this.depth.connect(oscillator.detune);
      oscillator.connect(filter);
      oscillator.start(time);
      return oscillator;
    });
    filter.connect(amp);
    amp.connect(this.bus);
    const note = { midi, oscillators, filter, amp, end, let: false };
    oscillators[0]!.onended = () => this.drop(note);
    this.notes.push(note);
  }

  /** How sharp the filters are, by the lane's resonance and the controller. */
  private get sharpness(): number {
    return Math.max(0.3 + ((this.sound?.resonance ?? 0) / 100) * 6 + (this.resonance - 64) / 12, 0.1);
  }

  /** How far brightness and pressure move the filters, in cents. */
  private get cents(): number {
    return ((this.brightness - 64) / 24 + (this.pressure / 127) * PRESSED) * 1200;
  }

  private bright(time: number): void {
    for (const { filter } of this.notes) filter.detune.setTargetAtTime(this.cents, time, 0.02);
  }

  press(time: number, value: number): void {
    this.pressure = value;
    this.bright(time);
  }

  /** Lets a note die away from a time on. */
  private release(note: Note, time: number): void {
    if (note.let) return;
    note.let = true;
    note.end = time;
    const { release } = this.timbre;
    note.amp.gain.cancelAndHoldAtTime(time);
    note.amp.gain.setTargetAtTime(0, time, release / 3);
    for (const oscillator of note.oscillators) oscillator.stop(time + release * 2.4);
  }

  /** Takes a note that has died away out of the graph. */
  private drop(note: Note): void {
    note.oscillators[0]!.onended = null;
    for (const oscillator of note.oscillators) {
      this.wheel.disconnect(oscillator.detune);
      this.depth.disconnect(oscillator.detune);
      oscillator.disconnect();
    }
    note.filter.disconnect();
    note.amp.disconnect();
    this.notes = this.notes.filter((n) => n !== note);
  }

  settle(time: number): void {
    if (this.pedal) return;
    for (const note of this.notes) if (!note.let && note.end <= time) this.release(note, note.end);
  }

  silence(time: number): void {
    for (const note of this.notes) this.release(note, time);
  }

  bend(time: number, value: number): void {
    this.wheel.offset.setValueAtTime((value / 8192) * this.range * 100, time);
  }

  control(time: number, controller: number, value: number): void {
    if (this.desk.control(time, controller, value)) return;
    switch (controller) {
      case 1:
        this.depth.gain.setTargetAtTime((value / 127) * 40, time, 0.02);
        break;
      case 6:
        if (this.parameter[0] === 0 && this.parameter[1] === 0) this.range = value;
        break;
      case 64:
        this.pedal = value >= 64;
        if (!this.pedal) this.settle(time);
        break;
      case 71:
        this.resonance = value;
        for (const { filter } of this.notes) filter.Q.setTargetAtTime(this.sharpness, time, 0.02);
        break;
      case 74:
        this.brightness = value;
        this.bright(time);
        break;
      case 100:
        this.parameter[1] = value;
        break;
      case 101:
        this.parameter[0] = value;
        break;
    }
  }

  dispose(): void {
    for (const note of this.notes) this.drop(note);
    this.wheel.stop();
    this.vibrato.stop();
    for (const part of [this.wheel, this.vibrato, this.depth, this.bus]) part.disconnect();
    for (const part of [this.echo, this.level, this.desk]) part.dispose();
  }
}
