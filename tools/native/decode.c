/*
 * How long C libraries need to decode a file that lies in memory: ms of processor time for a second of sound.
 * decode CODEC FILE: prints the quickest of some runs. Built and called by main.ts.
 */
#include <FLAC/stream_decoder.h>
#include <mpg123.h>
#include <neaacdec.h>
#include <opus/opusfile.h>
#include <stdio.h>
#include <stdlib.h>
#include <string.h>
#include <time.h>
#include <vorbis/vorbisfile.h>

static unsigned char *bytes;
static size_t size, at;
static double seconds;

static double now(void) {
  struct timespec t;
  clock_gettime(CLOCK_PROCESS_CPUTIME_ID, &t);
  return t.tv_sec * 1e3 + t.tv_nsec / 1e6;
}

static size_t give(void *to, size_t most) {
  size_t n = size - at < most ? size - at : most;
  memcpy(to, bytes + at, n);
  at += n;
  return n;
}

static FLAC__StreamDecoderReadStatus flacRead(const FLAC__StreamDecoder *d, FLAC__byte to[], size_t *n, void *x) {
  *n = give(to, *n);
  return *n ? FLAC__STREAM_DECODER_READ_STATUS_CONTINUE : FLAC__STREAM_DECODER_READ_STATUS_END_OF_STREAM;
}
static double frames;
static FLAC__StreamDecoderWriteStatus flacWrite(const FLAC__StreamDecoder *d, const FLAC__Frame *f,
                                                const FLAC__int32 *const b[], void *x) {
  frames += f->header.blocksize;
  seconds = frames / f->header.sample_rate;
  return FLAC__STREAM_DECODER_WRITE_STATUS_CONTINUE;
}
static void flacError(const FLAC__StreamDecoder *d, FLAC__StreamDecoderErrorStatus s, void *x) { exit(3); }

static void decodeFlac(void) {
  FLAC__StreamDecoder *d = FLAC__stream_decoder_new();
  frames = 0;
  FLAC__stream_decoder_init_stream(d, flacRead, NULL, NULL, NULL, NULL, flacWrite, NULL, flacError, NULL);
  FLAC__stream_decoder_process_until_end_of_stream(d);
  FLAC__stream_decoder_delete(d);
}

static void decodeMp3(void) {
  static unsigned char out[1 << 16];
  mpg123_handle *h = mpg123_new(NULL, NULL);
  size_t done, total = 0;
  mpg123_param(h, MPG123_FLAGS, MPG123_QUIET, 0);
  mpg123_open_feed(h);
  mpg123_feed(h, bytes, size);
  long rate = 44100;
  int channels = 2, encoding;
  for (;;) {
    int r = mpg123_read(h, out, sizeof out, &done);
    total += done;
    if (r == MPG123_NEW_FORMAT) mpg123_getformat(h, &rate, &channels, &encoding);
    else if (r != MPG123_OK) break;
  }
  seconds = (double)total / 2 / channels / rate;
  mpg123_delete(h);
}

static size_t oggRead(void *to, size_t one, size_t n, void *x) { return give(to, one * n) / one; }

static void decodeVorbis(void) {
  static char out[1 << 16];
  OggVorbis_File f;
  ov_callbacks calls = {oggRead, NULL, NULL, NULL};
  if (ov_open_callbacks(&bytes, &f, NULL, 0, calls)) exit(3);
  long n, total = 0;
  int section;
  while ((n = ov_read(&f, out, sizeof out, 0, 2, 1, &section)) > 0) total += n;
  seconds = (double)total / 2 / ov_info(&f, -1)->channels / ov_info(&f, -1)->rate;
  ov_clear(&f);
}

static void decodeOpus(void) {
  static float out[5760 * 2];
  int error;
  OggOpusFile *f = op_open_memory(bytes, size, &error);
  if (!f) exit(3);
  double total = 0;
  int n;
  while ((n = op_read_float_stereo(f, out, 5760 * 2)) > 0) total += n;
  seconds = total / 48000;
  op_free(f);
}

/* AAC as ADTS. */
static void decodeAac(void) {
  NeAACDecHandle h = NeAACDecOpen();
  unsigned long rate;
  unsigned char channels;
  NeAACDecInit(h, bytes, size, &rate, &channels);
  NeAACDecFrameInfo info;
  double total = 0;
  for (size_t p = 0; p + 8 < size;) {
    NeAACDecDecode(h, &info, bytes + p, size - p);
    if (info.error || !info.bytesconsumed) break;
    p += info.bytesconsumed;
    total += info.samples;
  }
  seconds = total / channels / rate;
  NeAACDecClose(h);
}

/* 16-bit samples to floating point: what every player does at least. Stereo at 44.1 kHz without a head. */
static void decodePcm(void) {
  static volatile float out[1 << 16];
  size_t count = size / 2;
  for (size_t i = 0; i < count; i++)
    out[i & 0xffff] = (short)(bytes[2 * i] | bytes[2 * i + 1] << 8) / 32768.0f;
  seconds = count / 2 / 44100.0;
}

/* IMA ADPCM by its standard's decoder: four bits a sample. */
static void decodeIma(void) {
  static const int moves[8] = {-1, -1, -1, -1, 2, 4, 6, 8};
  static int steps[89];
  static volatile float out[1 << 16];
  if (!steps[0]) for (int i = 0; i < 89; i++) steps[i] = i < 88 ? (int)(7 * __builtin_pow(1.1, i)) : 32767;
  int value = 0, index = 0;
  for (size_t i = 0; i < 2 * size; i++) {
    int code = bytes[i >> 1] >> (i & 1) * 4 & 15, step = steps[index], change = step >> 3;
    if (code & 4) change += step;
    if (code & 2) change += step >> 1;
    if (code & 1) change += step >> 2;
    value += code & 8 ? -change : change;
    value = value > 32767 ? 32767 : value < -32768 ? -32768 : value;
    index += moves[code & 7];
    index = index < 0 ? 0 : index > 88 ? 88 : index;
    out[i & 0xffff] = value / 32768.0f;
  }
  seconds = size / 44100.0;
}

int main(int count, char **words) {
  FILE *file = fopen(words[2], "rb");
  if (count < 3 || !file) return 2;
  fseek(file, 0, SEEK_END);
  size = ftell(file);
  rewind(file);
  bytes = malloc(size);
  if (fread(bytes, 1, size, file) != size) return 2;
  mpg123_init();
  double best = 1e9;
  for (int run = 0; run < 7; run++) {
    at = 0;
    double begun = now();
    if (!strcmp(words[1], "flac")) decodeFlac();
    else if (!strcmp(words[1], "mp3")) decodeMp3();
    else if (!strcmp(words[1], "vorbis")) decodeVorbis();
    else if (!strcmp(words[1], "opus")) decodeOpus();
    else if (!strcmp(words[1], "aac")) decodeAac();
    else if (!strcmp(words[1], "pcm")) decodePcm();
    else if (!strcmp(words[1], "ima-adpcm")) decodeIma();
    else return 2;
    double took = (now() - begun) / seconds;
    if (took < best) best = took;
  }
  printf("%.4f %.2f\n", best, seconds);
  return 0;
}
