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
)
