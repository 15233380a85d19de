;; The inner loop of the resampler, four taps at a time.
;; `npm run kernel` assembles this file into polyphaseBinary.ts; a test holds the two together.
(module
  (memory (export "memory") 1)

  ;; Writes `count` output frames of one channel.
  ;;   coefficients  byte address of the filter bank: rows of `taps` float32, one row a phase
  ;;   in, out       byte addresses of float32 samples; `in` is where the first output's filter begins
  ;;   phase         row of the first output
  ;;   taps          a multiple of 8
  ;;   up            number of phases
  ;;   wholeBytes    bytes to move on in the input for every output ...
  ;;   stepPhase     ... and phases to move on
  (func (export "run")
    (param $coefficients i32) (param $in i32) (param $out i32) (param $count i32)
    (param $phase i32) (param $taps i32) (param $up i32)
    (param $wholeBytes i32) (param $stepPhase i32)
    (local $end i32) (local $rowBytes i32) (local $row i32) (local $rowEnd i32) (local $at i32)
    (local $even v128) (local $odd v128)
    (local.set $rowBytes (i32.shl (local.get $taps) (i32.const 2)))
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 2))))
    (block $done
      (loop $output
        (br_if $done (i32.ge_u (local.get $out) (local.get $end)))
        (local.set $row
          (i32.add (local.get $coefficients) (i32.mul (local.get $phase) (local.get $rowBytes))))
        (local.set $rowEnd (i32.add (local.get $row) (local.get $rowBytes)))
        (local.set $at (local.get $in))
        (local.set $even (v128.const f32x4 0 0 0 0))
        (local.set $odd (v128.const f32x4 0 0 0 0))
        ;; Two sums, so that one addition need not wait for the other.
        (loop $tap
          (local.set $even
            (f32x4.add (local.get $even)
              (f32x4.mul (v128.load align=4 (local.get $row)) (v128.load align=4 (local.get $at)))))
          (local.set $odd
            (f32x4.add (local.get $odd)
              (f32x4.mul
                (v128.load offset=16 align=4 (local.get $row))
                (v128.load offset=16 align=4 (local.get $at)))))
          (local.set $at (i32.add (local.get $at) (i32.const 32)))
          (br_if $tap
            (i32.lt_u
              (local.tee $row (i32.add (local.get $row) (i32.const 32)))
              (local.get $rowEnd))))
        (local.set $even (f32x4.add (local.get $even) (local.get $odd)))
        (f32.store (local.get $out)
          (f32.add
            (f32.add (f32x4.extract_lane 0 (local.get $even)) (f32x4.extract_lane 1 (local.get $even)))
            (f32.add (f32x4.extract_lane 2 (local.get $even)) (f32x4.extract_lane 3 (local.get $even)))))
        (local.set $out (i32.add (local.get $out) (i32.const 4)))
        (local.set $in (i32.add (local.get $in) (local.get $wholeBytes)))
        (local.set $phase (i32.add (local.get $phase) (local.get $stepPhase)))
        (if (i32.ge_u (local.get $phase) (local.get $up))
          (then
            (local.set $phase (i32.sub (local.get $phase) (local.get $up)))
            (local.set $in (i32.add (local.get $in) (i32.const 4)))))
        (br $output))))

  ;; The same for places between the rows: each output is mixed of two neighbours.
  ;;   phase, up     the first output's place is `phase`/`up` of a frame behind `in`; whole numbers
  ;;   stepPhase     `up`-ths to move on for every output, besides `wholeBytes`
  ;;   phases        rows of the bank, one more than which are there
  (func (export "between")
    (param $coefficients i32) (param $in i32) (param $out i32) (param $count i32)
    (param $taps i32) (param $wholeBytes i32)
    (param $phase f64) (param $up f64) (param $stepPhase f64) (param $phases f64)
    (local $end i32) (local $rowBytes i32) (local $low i32) (local $high i32) (local $rowEnd i32)
    (local $at i32) (local $place f64) (local $row f64) (local $share f32)
    (local $lowEven v128) (local $lowOdd v128) (local $highEven v128) (local $highOdd v128)
    (local $first v128) (local $second v128)
    (local.set $rowBytes (i32.shl (local.get $taps) (i32.const 2)))
    (local.set $end (i32.add (local.get $out) (i32.shl (local.get $count) (i32.const 2))))
    (block $done
      (loop $output
        (br_if $done (i32.ge_u (local.get $out) (local.get $end)))
        (local.set $place
          (f64.mul (f64.div (local.get $phase) (local.get $up)) (local.get $phases)))
        (local.set $row
          (f64.min (f64.floor (local.get $place)) (f64.sub (local.get $phases) (f64.const 1))))
        (local.set $share (f32.demote_f64 (f64.sub (local.get $place) (local.get $row))))
        (local.set $low
          (i32.add
            (local.get $coefficients)
            (i32.mul (i32.trunc_f64_u (local.get $row)) (local.get $rowBytes))))
        (local.set $high (i32.add (local.get $low) (local.get $rowBytes)))
        (local.set $rowEnd (local.get $high))
        (local.set $at (local.get $in))
        (local.set $lowEven (v128.const f32x4 0 0 0 0))
        (local.set $lowOdd (v128.const f32x4 0 0 0 0))
        (local.set $highEven (v128.const f32x4 0 0 0 0))
        (local.set $highOdd (v128.const f32x4 0 0 0 0))
        (loop $tap
          (local.set $first (v128.load align=4 (local.get $at)))
          (local.set $second (v128.load offset=16 align=4 (local.get $at)))
          (local.set $lowEven
            (f32x4.add (local.get $lowEven)
              (f32x4.mul (v128.load align=4 (local.get $low)) (local.get $first))))
          (local.set $highEven
            (f32x4.add (local.get $highEven)
              (f32x4.mul (v128.load align=4 (local.get $high)) (local.get $first))))
          (local.set $lowOdd
            (f32x4.add (local.get $lowOdd)
              (f32x4.mul (v128.load offset=16 align=4 (local.get $low)) (local.get $second))))
          (local.set $highOdd
            (f32x4.add (local.get $highOdd)
              (f32x4.mul (v128.load offset=16 align=4 (local.get $high)) (local.get $second))))
          (local.set $at (i32.add (local.get $at) (i32.const 32)))
          (local.set $high (i32.add (local.get $high) (i32.const 32)))
          (br_if $tap
            (i32.lt_u
              (local.tee $low (i32.add (local.get $low) (i32.const 32)))
              (local.get $rowEnd))))
        (local.set $lowEven (f32x4.add (local.get $lowEven) (local.get $lowOdd)))
        (local.set $highEven (f32x4.add (local.get $highEven) (local.get $highOdd)))
        ;; low + share × (high − low)
        (local.set $lowEven
          (f32x4.add
            (local.get $lowEven)
            (f32x4.mul
              (f32x4.splat (local.get $share))
              (f32x4.sub (local.get $highEven) (local.get $lowEven)))))
        (f32.store (local.get $out)
          (f32.add
            (f32.add (f32x4.extract_lane 0 (local.get $lowEven)) (f32x4.extract_lane 1 (local.get $lowEven)))
            (f32.add (f32x4.extract_lane 2 (local.get $lowEven)) (f32x4.extract_lane 3 (local.get $lowEven)))))
        (local.set $out (i32.add (local.get $out) (i32.const 4)))
        (local.set $in (i32.add (local.get $in) (local.get $wholeBytes)))
        (local.set $phase (f64.add (local.get $phase) (local.get $stepPhase)))
        (if (f64.ge (local.get $phase) (local.get $up))
          (then
            (local.set $phase (f64.sub (local.get $phase) (local.get $up)))
            (local.set $in (i32.add (local.get $in) (i32.const 4)))))
        (br $output))))
)
