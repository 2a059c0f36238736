/** A drum of the kit for a note of the General MIDI percussion map, and by how many semitones it is tuned. */
export type Piece = readonly [drum: number, tuned: number];

/**
 * Which drum of the kit sounds for a note of the General MIDI Level 1 percussion map (27..34 and 82..87: of Level 2).
 * Other notes sound like the nearest of the kit.
 */
export const percussion: Readonly<Record<number, Piece>> = {
  27: [33, 5], // high Q
  28: [39, 2], // slap
  29: [42, -4], // scratch push
  30: [42, -7], // scratch pull
  31: [37, 2], // sticks
  32: [33, 0], // square click
  33: [33, 0], // metronome click
  34: [33, 7], // metronome bell
  35: [36, -2], // acoustic bass drum
  36: [36, 0], // bass drum 1
  37: [37, 0], // side stick
  38: [38, 0], // acoustic snare
  39: [39, 0], // hand clap
  40: [38, 3], // electric snare
  41: [45, -5], // low floor tom
  42: [42, 0], // closed hi-hat
  43: [45, -3], // high floor tom
  44: [42, -3], // pedal hi-hat
  45: [45, 0], // low tom
  46: [46, 0], // open hi-hat
  47: [45, 2], // low-mid tom
  48: [45, 4], // hi-mid tom
  49: [49, 0], // crash cymbal 1
  50: [45, 7], // high tom
  51: [49, 5], // ride cymbal 1
  52: [49, -3], // Chinese cymbal
  53: [33, 3], // ride bell
  54: [42, 4], // tambourine
  55: [49, 7], // splash cymbal
  56: [37, -5], // cowbell
  57: [49, 2], // crash cymbal 2
  58: [39, 5], // vibraslap
  59: [49, 6], // ride cymbal 2
  60: [45, 14], // hi bongo
  61: [45, 10], // low bongo
  62: [45, 11], // mute hi conga
  63: [45, 9], // open hi conga
  64: [45, 5], // low conga
  65: [45, 8], // high timbale
  66: [45, 3], // low timbale
  67: [37, 8], // high agogo
  68: [37, 3], // low agogo
  69: [42, 6], // cabasa
  70: [42, 8], // maracas
  71: [33, 9], // short whistle
  72: [33, 8], // long whistle
  73: [42, 2], // short guiro
  74: [42, 1], // long guiro
  75: [37, 12], // claves
  76: [37, 6], // hi wood block
  77: [37, 1], // low wood block
  78: [45, 12], // mute cuica
  79: [45, 13], // open cuica
  80: [33, 10], // mute triangle
  81: [33, 11], // open triangle
  82: [42, 7], // shaker
  83: [33, 12], // jingle bell
  84: [33, 6], // belltree
  85: [37, 10], // castanets
  86: [45, -1], // mute surdo
  87: [45, -7], // open surdo
};

/** The hi-hat that rings until it is closed, and the notes that close it: they end what sounds of it. */
export const OPEN_HAT = 46;
export const CLOSING: readonly number[] = [42, 44, 46];
