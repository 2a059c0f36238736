import * as Tone from "tone";
import type { Sound } from "../api/gen/piece.gen";
import { Desk } from "./desk";
import { Wire } from "./wire";
import type { Voice } from "./voices";

/** How far full pressure opens the filter, in octaves. */
const PRESSED = 1.5;

/** From which drive on, in %, what it adds lies so high that it has to be worked out more finely. */
const HARD = 30;

/** What drive, in %, makes of a sample: as it is, and bent, at equal power. */
function driven(drive: number): (x: number) => number {
  const k = (drive / 100) * 80;
  const wet = (Math.min(1, (drive / 100) * 1.4) * Math.PI) / 2;
  const bent = (x: number) => ((3 + k) * x * (Math.PI / 9)) / (Math.PI + k * Math.abs(x));
  return (x) => Math.cos(wet) * x + Math.sin(wet) * bent(x);
}

/** How long echoes are heard, in seconds. */
const ECHOES = 4;

/** How far the two oscillators of a pluck stand apart, in cents. */
const APART = 11;

/** What is wired only while it is wanted. */
interface Wires {
  saw: Wire;
  pulse: Wire;
  saws: Wire;
  pulses: Wire;
  dry: Wire;
  wet: Wire;
  echo: Wire;
}

/**
 * A monophonic voice that a lane is heard with: an oscillator, for a pluck two a little
 * apart, a resonant filter with an envelope, drive and echo. It honours what a file holds: velocity,
 * overlap (no new attack), bends with their range, portamento (5, 65, 84), modulation (1),
 * volume (7), pan (10), expression (11), the pedal (64), resonance (71), brightness (74)
 * and pressure.
 */
export class Mono implements Voice {
  private readonly saws = [0, 1].map(() => new Tone.Oscillator({ type: "sawtooth" }));
  private readonly pulses = [0, 1].map(() => new Tone.PulseOscillator({ width: 0.35 }));
  /** Lets the second of each through. */
  private readonly twin = { saw: new Tone.Gain(0), pulse: new Tone.Gain(0) };
  private readonly mixSaw = new Tone.Gain(1);
  private readonly mixPulse = new Tone.Gain(0);
  private readonly filter = new Tone.Filter({ type: "lowpass", rolloff: -24, frequency: 400 });
  private readonly filterEnvelope = new Tone.FrequencyEnvelope({
    attack: 0.004,
    decay: 0.2,
    sustain: 0.15,
    release: 0.08,
    baseFrequency: 300,
    octaves: 3,
  });
  private readonly amp = new Tone.AmplitudeEnvelope({ attack: 0.004, decay: 0.25, sustain: 0.75, release: 0.05 });
  private readonly drive = new Tone.WaveShaper(driven(0), 1024);
  private readonly echo = new Tone.FeedbackDelay({ delayTime: 0.29, feedback: 0.32, wet: 0 });
  private readonly level = new Tone.Gain(0.5);
  private key = "";
  private base = 300;
  /** How far velocity opens the filter at rest, in octaves. */
  private touch = 0;
  private octaves = 3;
  /** When the sounding notes end, in seconds of the audio clock. */
  private held: number[] = [];
  private pitch = 0;
  private wheelRange = 2;
  private wheel = 0;
  /** How far the two oscillators stand apart, in cents; 0: there is one. */
  private apart = 0;
  private parameter: [number, number] = [127, 127];
  private brightness = 64;
  private pressure = 0;
  private resonance = 64;
  private sharpness = 1;
  private pedal = false;
  private readonly vibrato = new Tone.Oscillator({ type: "sine", frequency: 5.2 });
  private readonly depth = new Tone.Gain(0);
  private readonly desk: Desk;
  private readonly wires: Wires;
  /** Whether the vibrato has been asked for: until then it is not worked out. */
  private trembles = false;
  /** Until when what was struck last may still be heard, in seconds of the audio clock. */
  private heardUntil = 0;
  /** How long it is heard after its last note has ended. */
  private tail = 1;
  private portamento = { on: false, seconds: 0, from: -1 };

  /** seconds: how long a value of controller 5 lets a portamento last. */
  constructor(
    out: Tone.InputNode,
    private readonly seconds: readonly number[],
  ) {
    this.desk = new Desk(out);
    this.saws[0]!.connect(this.mixSaw);
    this.pulses[0]!.connect(this.mixPulse);
    this.twin.saw.connect(this.mixSaw);
    this.twin.pulse.connect(this.mixPulse);
    this.wires = {
      saw: new Wire(this.mixSaw, this.filter),
      pulse: new Wire(this.mixPulse, this.filter),
      saws: new Wire(this.saws[1]!, this.twin.saw),
      pulses: new Wire(this.pulses[1]!, this.twin.pulse),
      dry: new Wire(this.drive, this.level),
      wet: new Wire(this.drive, this.echo),
      echo: new Wire(this.echo, this.level),
    };
    this.filterEnvelope.connect(this.filter.frequency);
    this.filter.frequency.value = 0;
    this.filter.chain(this.amp, this.drive);
    this.level.connect(this.desk.in);
    this.vibrato.connect(this.depth);
    for (const oscillator of [...this.saws, ...this.pulses]) oscillator.start();
  }

  /** Takes the lane's settings, each 0..100. */
  set(sound: Sound): void {
    const key = JSON.stringify(sound);
    if (key === this.key) return;
    this.key = key;
    const pluck = sound.voice === "pluck";
    // Two together are no louder than one.
    const share = pluck ? 0.65 : 1;
    this.mixSaw.gain.rampTo(sound.wave === "saw" ? 0.6 * share : 0, 0.02);
    this.mixPulse.gain.rampTo(sound.wave === "pulse" ? 0.5 * share : 0, 0.02);
    this.twin.saw.gain.rampTo(pluck ? 1 : 0, 0.02);
    this.twin.pulse.gain.rampTo(pluck ? 1 : 0, 0.02);
    this.apart = pluck ? APART : 0;
    this.tune(Tone.now());
    this.base = 60 * 2 ** ((sound.cutoff / 100) * 6.5);
    this.octaves = (sound.envelope / 100) * (pluck ? 5 : 4.5);
    this.sharpness = 0.5 + (sound.resonance / 100) * 11;
    this.sharpen(Tone.now());
    const decay = 0.06 + (sound.decay / 100) ** 2 * (pluck ? 1.6 : 1.1);
    this.filterEnvelope.decay = decay;
    this.filterEnvelope.sustain = pluck ? 0 : 0.12;
    this.amp.decay = pluck ? decay * 1.6 : 0.4;
    this.amp.sustain = pluck ? 0.02 : 0.72;
    this.amp.release = pluck ? 0.3 : 0.045;
    this.filterEnvelope.release = pluck ? 0.3 : 0.08;
    this.touch = pluck ? 1.2 : 0;
    this.drive.setMap(driven(sound.drive), 1024);
    this.drive.oversample = sound.drive > HARD ? "2x" : "none";
    const saw = sound.wave === "saw";
    this.wires.saw.set(saw);
    this.wires.pulse.set(!saw);
    this.wires.saws.set(saw && pluck);
    this.wires.pulses.set(!saw && pluck);
    this.wires.dry.set(sound.delay === 0);
    this.wires.wet.set(sound.delay > 0);
    this.wires.echo.set(sound.delay > 0);
    this.tail = pluck ? 1 : 0.4;
    if (sound.delay > 0) this.tail += ECHOES;
    this.echo.wet.rampTo((sound.delay / 100) * 0.5, 0.05);
    this.level.gain.rampTo((sound.level / 100) ** 1.6 * 0.7, 0.02);
  }

  /** Strikes a note, or goes on to it when one is still held. */
  strike(time: number, end: number, midi: number, velocity: number): void {
    const legato = this.held.length > 0;
    this.desk.wake(true);
    this.heardUntil = Math.max(this.heardUntil, end);
    const hertz = Tone.Frequency(midi, "midi").toFrequency();
    const glide = this.portamento;
    const from = glide.on && glide.seconds > 0 ? (glide.from >= 0 ? glide.from : this.pitch) : 0;
    for (const oscillator of [...this.saws, ...this.pulses]) {
      if (from > 0) {
        oscillator.frequency.setValueAtTime(Tone.Frequency(from, "midi").toFrequency(), time);
        oscillator.frequency.exponentialRampToValueAtTime(hertz, time + glide.seconds);
      } else oscillator.frequency.setValueAtTime(hertz, time);
    }
    this.pitch = midi;
    this.portamento.from = -1;
    if (!legato) {
      const force = velocity / 127;
      const bright = this.touch * (force - 0.8);
      this.filterEnvelope.baseFrequency = Math.min(this.base * 2 ** bright, 9000);
      this.filterEnvelope.octaves = this.octaves * (0.45 + 0.55 * force);
      this.filterEnvelope.triggerAttack(time);
      this.amp.triggerAttack(time, 0.25 + 0.75 * force * force);
    }
    this.held.push(end);
  }

  /** Lets go of the notes that end before a time. */
  settle(time: number): void {
    if (!this.held.length && Tone.now() > this.heardUntil + this.tail) this.desk.wake(false);
    if (!this.held.length || this.pedal) return;
    const last = Math.max(...this.held);
    this.held = this.held.filter((end) => end > time);
    if (!this.held.length) {
      this.amp.triggerRelease(last);
      this.filterEnvelope.triggerRelease(last);
      this.heardUntil = Math.max(this.heardUntil, last);
    }
  }

  /** Stops what sounds. */
  silence(time: number): void {
    if (!this.held.length) return;
    this.held = [];
    this.amp.cancel(time);
    this.amp.triggerRelease(time);
    this.filterEnvelope.cancel(time);
    this.filterEnvelope.triggerRelease(time);
  }

  /** Moves the wheel, -8192..8191, within the range that was set. */
  bend(time: number, value: number): void {
    this.wheel = (value / 8192) * this.wheelRange * 100;
    this.tune(time);
  }

  /** Puts the oscillators to either side of where the wheel stands. */
  private tune(time: number): void {
    for (const pair of [this.saws, this.pulses])
      pair.forEach((one, i) => one.detune.setValueAtTime(this.wheel + (i - 0.5) * this.apart, time));
  }

  /** How sharp the filter is, by the lane's resonance and the controller. */
  private sharpen(time: number): void {
    this.filter.Q.setTargetAtTime(Math.max(this.sharpness + (this.resonance - 64) / 8, 0.1), time, 0.015);
  }

  /** How far brightness and pressure open the filter. */
  private brighten(time: number): void {
    const octaves = (this.brightness - 64) / 24 + (this.pressure / 127) * PRESSED;
    this.filter.detune.setTargetAtTime(octaves * 1200, time, 0.012);
  }

  press(time: number, value: number): void {
    this.pressure = value;
    this.brighten(time);
  }

  control(time: number, controller: number, value: number): void {
    if (this.desk.control(time, controller, value)) return;
    switch (controller) {
      case 1:
        if (!this.trembles) {
          this.trembles = true;
          this.vibrato.start();
          for (const oscillator of [...this.saws, ...this.pulses]) this.depth.connect(oscillator.detune);
        }
        this.depth.gain.setTargetAtTime((value / 127) * 40, time, 0.02);
        break;
      case 64:
        this.pedal = value >= 64;
        break;
      case 71:
        this.resonance = value;
        this.sharpen(time);
        break;
      case 5:
        this.portamento.seconds = this.seconds[value] ?? 0;
        break;
      case 6:
        if (this.parameter[0] === 0 && this.parameter[1] === 0) this.wheelRange = value;
        break;
      case 65:
        this.portamento.on = value >= 64;
        break;
      case 74:
        this.brightness = value;
        this.brighten(time);
        break;
      case 84:
        this.portamento.from = value;
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
    for (const part of [
      ...this.saws,
      ...this.pulses,
      this.twin.saw,
      this.twin.pulse,
      this.mixSaw,
      this.mixPulse,
      this.filter,
      this.filterEnvelope,
      this.amp,
      this.drive,
      this.echo,
      this.level,
      this.vibrato,
      this.depth,
      this.desk,
      ...(Object.values(this.wires) as Wire[]),
    ])
      part.dispose();
  }
}
