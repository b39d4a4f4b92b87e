;; How far vectors are apart, eight numbers at a time. Vectors are padded with zeros to a multiple of eight numbers;
;; `bytes` is the length of one. `metric` is 0 for the negated dot product, 1 for the sum of the squares of differences. Vectors begin at
;; `base`; at `list` stand the numbers of those that are to be compared, and at `out` comes what they are apart.
(module
  (import "host" "memory" (memory 1))
  (import "host" "metric" (global $metric i32))
  (import "host" "bytes" (global $bytes i32))
  (import "host" "base" (global $base i32))
  (import "host" "list" (global $list i32))
  (import "host" "out" (global $out i32))

  (func $dot (param $a i32) (param $b i32) (result f32)
    (local $end i32) (local $s v128) (local $t v128)
    (local.set $end (i32.add (local.get $a) (global.get $bytes)))
    (loop $more
      (local.set $s (f32x4.add (local.get $s) (f32x4.mul (v128.load (local.get $a)) (v128.load (local.get $b)))))
      (local.set $t (f32x4.add (local.get $t) (f32x4.mul (v128.load offset=16 (local.get $a)) (v128.load offset=16 (local.get $b)))))
      (local.set $a (i32.add (local.get $a) (i32.const 32)))
      (local.set $b (i32.add (local.get $b) (i32.const 32)))
      (br_if $more (i32.lt_u (local.get $a) (local.get $end))))
    (f32.neg (call $sum (f32x4.add (local.get $s) (local.get $t)))))

  (func $squares (param $a i32) (param $b i32) (result f32)
    (local $end i32) (local $s v128) (local $t v128) (local $d v128)
    (local.set $end (i32.add (local.get $a) (global.get $bytes)))
    (loop $more
      (local.set $d (f32x4.sub (v128.load (local.get $a)) (v128.load (local.get $b))))
      (local.set $s (f32x4.add (local.get $s) (f32x4.mul (local.get $d) (local.get $d))))
      (local.set $d (f32x4.sub (v128.load offset=16 (local.get $a)) (v128.load offset=16 (local.get $b))))
      (local.set $t (f32x4.add (local.get $t) (f32x4.mul (local.get $d) (local.get $d))))
      (local.set $a (i32.add (local.get $a) (i32.const 32)))
      (local.set $b (i32.add (local.get $b) (i32.const 32)))
      (br_if $more (i32.lt_u (local.get $a) (local.get $end))))
    (call $sum (f32x4.add (local.get $s) (local.get $t))))

  (func $sum (param $v v128) (result f32)
    (f32.add
      (f32.add (f32x4.extract_lane 0 (local.get $v)) (f32x4.extract_lane 1 (local.get $v)))
      (f32.add (f32x4.extract_lane 2 (local.get $v)) (f32x4.extract_lane 3 (local.get $v)))))

  (func $apart (param $a i32) (param $b i32) (result f32)
    (if (result f32) (global.get $metric)
      (then (call $squares (local.get $a) (local.get $b)))
      (else (call $dot (local.get $a) (local.get $b)))))

  ;; The address of the vector whose number stands at `at`.
  (func $numbered (param $at i32) (result i32)
    (i32.add (global.get $base) (i32.mul (i32.load (local.get $at)) (global.get $bytes))))

  ;; Of the vector at `from` to the first `count` in the list.
  (func (export "listed") (param $from i32) (param $count i32)
    (local $at i32) (local $end i32)
    (local.set $end (i32.shl (local.get $count) (i32.const 2)))
    (block $none
      (br_if $none (i32.eqz (local.get $count)))
      (loop $more
        (f32.store (i32.add (global.get $out) (local.get $at))
          (call $apart (local.get $from) (call $numbered (i32.add (global.get $list) (local.get $at)))))
        (local.set $at (i32.add (local.get $at) (i32.const 4)))
        (br_if $more (i32.lt_u (local.get $at) (local.get $end))))))

  ;; Of the vector at `from` to so many that stand one after another from `first` on.
  (func (export "following") (param $from i32) (param $first i32) (param $count i32)
    (local $at i32) (local $end i32)
    (local.set $at (global.get $out))
    (local.set $end (i32.add (local.get $at) (i32.shl (local.get $count) (i32.const 2))))
    (block $none
      (br_if $none (i32.eqz (local.get $count)))
      (loop $more
        (f32.store (local.get $at) (call $apart (local.get $from) (local.get $first)))
        (local.set $first (i32.add (local.get $first) (global.get $bytes)))
        (local.set $at (i32.add (local.get $at) (i32.const 4)))
        (br_if $more (i32.lt_u (local.get $at) (local.get $end))))))

  ;; Whether one of the first `count` in the list is nearer to the vector at `from` than `limit`; how many were compared for it, with a minus where one is.
  (func (export "nearer") (param $from i32) (param $count i32) (param $limit f32) (result i32)
    (local $k i32) (local $at i32)
    (local.set $at (global.get $list))
    (block $none
      (br_if $none (i32.eqz (local.get $count)))
      (loop $more
        (local.set $k (i32.add (local.get $k) (i32.const 1)))
        (if (f32.lt (call $apart (local.get $from) (call $numbered (local.get $at))) (local.get $limit))
          (then (return (i32.sub (i32.const 0) (local.get $k)))))
        (local.set $at (i32.add (local.get $at) (i32.const 4)))
        (br_if $more (i32.lt_u (local.get $k) (local.get $count)))))
    (local.get $k)))
