/* What WebAssembly's operations do (WebAssembly core specification 2.0, 4.3), for one step of a loop and, named w_, for two at once. */
#include <immintrin.h>
#include <math.h>
#include <stdint.h>
#include <stdlib.h>
#include <string.h>

typedef uint8_t u8;
typedef uint16_t u16;
typedef uint32_t u32;
typedef uint64_t u64;
typedef int32_t i32;
typedef int64_t i64;
typedef float f32;
typedef double f64;
typedef __m128i v128;
typedef __m256i v256;
typedef u32 u32x4 __attribute__((vector_size(16)));
typedef i32 i32x4 __attribute__((vector_size(16)));
typedef u64 u64x2 __attribute__((vector_size(16)));
typedef f32 f32x4 __attribute__((vector_size(16)));
typedef u8 u8x16 __attribute__((vector_size(16)));
typedef u32 u32x8 __attribute__((vector_size(32)));
typedef i32 i32x8 __attribute__((vector_size(32)));
typedef u8 u8x32 __attribute__((vector_size(32)));
#define OP static inline __attribute__((always_inline))

/* numbers */
#define TWO_WORDS(name, e) OP u32 i32_##name(u32 a, u32 b) { return (u32)(e); }
TWO_WORDS(add, a + b)
TWO_WORDS(sub, a - b)
TWO_WORDS(mul, a * b)
TWO_WORDS(and, a & b)
TWO_WORDS(or, a | b)
TWO_WORDS(xor, a ^ b)
TWO_WORDS(shl, a << (b & 31))
TWO_WORDS(shr_u, a >> (b & 31))
TWO_WORDS(shr_s, (i32)a >> (b & 31))
/* by nothing: nothing, where WebAssembly stops */
TWO_WORDS(rem_s, b == 0 || b == ~0u ? 0 : (i32)a % (i32)b)
TWO_WORDS(div_s, b == 0 ? 0 : b == ~0u ? 0u - a : (u32)((i32)a / (i32)b))
TWO_WORDS(eq, a == b)
TWO_WORDS(ne, a != b)
TWO_WORDS(lt_s, (i32)a < (i32)b)
TWO_WORDS(le_s, (i32)a <= (i32)b)
TWO_WORDS(gt_s, (i32)a > (i32)b)
TWO_WORDS(ge_s, (i32)a >= (i32)b)
TWO_WORDS(lt_u, a < b)
TWO_WORDS(le_u, a <= b)
TWO_WORDS(gt_u, a > b)
TWO_WORDS(ge_u, a >= b)
OP u32 i32_eqz(u32 a) { return a == 0; }
OP u64 i64_shr_u(u64 a, u64 b) { return a >> (b & 63); }
OP u32 i32_wrap_i64(u64 a) { return (u32)a; }
#define TWO_REALS(name, gives, e) OP gives f32_##name(f32 a, f32 b) { return e; }
TWO_REALS(add, f32, a + b)
TWO_REALS(sub, f32, a - b)
TWO_REALS(mul, f32, a * b)
TWO_REALS(div, f32, a / b)
TWO_REALS(min, f32, a != a ? a : b != b ? b : a == b ? (signbit(a) ? a : b) : a < b ? a : b)
TWO_REALS(max, f32, a != a ? a : b != b ? b : a == b ? (signbit(a) ? b : a) : a > b ? a : b)
TWO_REALS(eq, u32, a == b)
TWO_REALS(ne, u32, a != b)
TWO_REALS(lt, u32, a < b)
TWO_REALS(le, u32, a <= b)
TWO_REALS(gt, u32, a > b)
TWO_REALS(ge, u32, a >= b)
OP f32 f32_floor(f32 a) { return floorf(a); }
OP f32 f32_ceil(f32 a) { return ceilf(a); }
OP f32 f32_abs(f32 a) { return fabsf(a); }
OP f32 f32_sqrt(f32 a) { return _mm_cvtss_f32(_mm_sqrt_ss(_mm_set_ss(a))); }
OP f64 f64_add(f64 a, f64 b) { return a + b; }
OP f64 f64_sub(f64 a, f64 b) { return a - b; }
OP f64 f64_mul(f64 a, f64 b) { return a * b; }
OP f64 f64_div(f64 a, f64 b) { return a / b; }
OP u32 f64_ge(f64 a, f64 b) { return a >= b; }
OP f64 f64_floor(f64 a) { return floor(a); }
OP f32 f32_convert_i32_s(u32 a) { return (f32)(i32)a; }
OP f32 f32_convert_i32_u(u32 a) { return (f32)a; }
OP f64 f64_convert_i32_s(u32 a) { return (f64)(i32)a; }
OP f64 f64_convert_i32_u(u32 a) { return (f64)a; }
OP u32 i32_trunc_sat_f32_s(f32 a) { return a != a ? 0 : a >= 0x1p31f ? 0x7fffffffu : a < -0x1p31f ? 0x80000000u : (u32)(i32)a; }
OP u32 i32_trunc_sat_f32_u(f32 a) { return !(a > -1.f) ? 0 : a >= 0x1p32f ? ~0u : (u32)(i64)a; }
OP u32 i32_trunc_sat_f64_s(f64 a) { return a != a ? 0 : a >= 2147483647. ? 0x7fffffffu : a <= -2147483648. ? 0x80000000u : (u32)(i32)a; }
OP u32 i32_reinterpret_f32(f32 a) { u32 b; memcpy(&b, &a, 4); return b; }

/* memory */
OP f32 f32_load(const u8 *p) { f32 v; memcpy(&v, p, 4); return v; }
OP u32 i32_load(const u8 *p) { u32 v; memcpy(&v, p, 4); return v; }
OP u32 i32_load16_u(const u8 *p) { u16 v; memcpy(&v, p, 2); return v; }
OP u32 i32_load8_u(const u8 *p) { return *p; }
OP void f32_store(u8 *p, f32 v) { memcpy(p, &v, 4); }
OP void i32_store(u8 *p, u32 v) { memcpy(p, &v, 4); }
OP void i32_store16(u8 *p, u32 v) { u16 w = (u16)v; memcpy(p, &w, 2); }
OP v128 v128_load(const u8 *p) { return _mm_loadu_si128((const __m128i *)p); }
OP v256 w_v128_load(const u8 *p) { return _mm256_loadu_si256((const __m256i *)p); }
OP void v128_store(u8 *p, v128 v) { _mm_storeu_si128((__m128i *)p, v); }
OP void w_v128_store(u8 *p, v256 v) { _mm256_storeu_si256((__m256i *)p, v); }
OP v128 v128_load32_splat(const u8 *p) { return (v128)_mm_set1_ps(f32_load(p)); }
OP v128 v128_load64_zero(const u8 *p) { return _mm_loadl_epi64((const __m128i *)p); }
OP v128 v128_load32_zero(const u8 *p) { return _mm_cvtsi32_si128((int)i32_load(p)); }
OP v128 v128_load16x4_u(const u8 *p) { return _mm_cvtepu16_epi32(_mm_loadl_epi64((const __m128i *)p)); }
OP v256 w_v128_load16x4_u(const u8 *p) { return _mm256_cvtepu16_epi32(_mm_loadu_si128((const __m128i *)p)); }
#define v128_load32_lane(p, v, n) _mm_insert_epi32(v, (int)i32_load(p), n)
#define v128_load64_lane(p, v, n) \
  ((n) ? (v128)_mm_loadh_pi((__m128)(v), (const __m64 *)(p)) : (v128)_mm_loadl_pi((__m128)(v), (const __m64 *)(p)))
OP void store64(u8 *p, u64 v) { memcpy(p, &v, 8); }
#define v128_store64_lane(p, v, n) store64(p, ((u64x2)(v))[n])
#define v128_store32_lane(p, v, n) i32_store(p, ((u32x4)(v))[n])

/* two halves of a wide value */
OP v256 pair(v128 a, v128 b) { return _mm256_inserti128_si256(_mm256_castsi128_si256(a), b, 1); }
OP v256 dup(v128 a) { return _mm256_broadcastsi128_si256(a); }
OP v128 lo(v256 a) { return _mm256_castsi256_si128(a); }
OP v128 hi(v256 a) { return _mm256_extracti128_si256(a, 1); }

/* four and eight lanes */
#define FOUR(name, e4, e8) \
  OP v128 name(v128 a, v128 b) { return (v128)(e4); } \
  OP v256 w_##name(v256 a, v256 b) { return (v256)(e8); }
#define ONE_OF(name, e4, e8) \
  OP v128 name(v128 a) { return (v128)(e4); } \
  OP v256 w_##name(v256 a) { return (v256)(e8); }
#define F(a) ((__m128)(a))
#define G(a) ((__m256)(a))
FOUR(f32x4_add, _mm_add_ps(F(a), F(b)), _mm256_add_ps(G(a), G(b)))
FOUR(f32x4_sub, _mm_sub_ps(F(a), F(b)), _mm256_sub_ps(G(a), G(b)))
FOUR(f32x4_mul, _mm_mul_ps(F(a), F(b)), _mm256_mul_ps(G(a), G(b)))
FOUR(f32x4_div, _mm_div_ps(F(a), F(b)), _mm256_div_ps(G(a), G(b)))
/* b < a ? b : a, and a < b ? b : a: the machine's own with its operands turned round */
FOUR(f32x4_pmin, _mm_min_ps(F(b), F(a)), _mm256_min_ps(G(b), G(a)))
FOUR(f32x4_pmax, _mm_max_ps(F(b), F(a)), _mm256_max_ps(G(b), G(a)))
FOUR(f32x4_eq, _mm_cmp_ps(F(a), F(b), _CMP_EQ_OQ), _mm256_cmp_ps(G(a), G(b), _CMP_EQ_OQ))
FOUR(f32x4_lt, _mm_cmp_ps(F(a), F(b), _CMP_LT_OQ), _mm256_cmp_ps(G(a), G(b), _CMP_LT_OQ))
FOUR(f32x4_le, _mm_cmp_ps(F(a), F(b), _CMP_LE_OQ), _mm256_cmp_ps(G(a), G(b), _CMP_LE_OQ))
FOUR(f32x4_gt, _mm_cmp_ps(F(a), F(b), _CMP_GT_OQ), _mm256_cmp_ps(G(a), G(b), _CMP_GT_OQ))
FOUR(f32x4_ge, _mm_cmp_ps(F(a), F(b), _CMP_GE_OQ), _mm256_cmp_ps(G(a), G(b), _CMP_GE_OQ))
FOUR(i32x4_add, _mm_add_epi32(a, b), _mm256_add_epi32(a, b))
FOUR(i32x4_sub, _mm_sub_epi32(a, b), _mm256_sub_epi32(a, b))
FOUR(i32x4_mul, _mm_mullo_epi32(a, b), _mm256_mullo_epi32(a, b))
FOUR(i32x4_eq, _mm_cmpeq_epi32(a, b), _mm256_cmpeq_epi32(a, b))
FOUR(i32x4_lt_s, _mm_cmpgt_epi32(b, a), _mm256_cmpgt_epi32(b, a))
FOUR(i32x4_dot_i16x8_s, _mm_madd_epi16(a, b), _mm256_madd_epi16(a, b))
FOUR(i16x8_narrow_i32x4_u, _mm_packus_epi32(a, b), _mm256_packus_epi32(a, b))
FOUR(i16x8_narrow_i32x4_s, _mm_packs_epi32(a, b), _mm256_packs_epi32(a, b))
FOUR(i8x16_narrow_i16x8_u, _mm_packus_epi16(a, b), _mm256_packus_epi16(a, b))
FOUR(v128_and, a & b, a & b)
FOUR(v128_or, a | b, a | b)
FOUR(v128_xor, a ^ b, a ^ b)
FOUR(v128_andnot, a & ~b, a & ~b)
ONE_OF(f32x4_sqrt, _mm_sqrt_ps(F(a)), _mm256_sqrt_ps(G(a)))
ONE_OF(f32x4_floor, _mm_floor_ps(F(a)), _mm256_floor_ps(G(a)))
ONE_OF(f32x4_nearest, _mm_round_ps(F(a), 8), _mm256_round_ps(G(a), 8))
ONE_OF(f32x4_abs, a & _mm_set1_epi32(0x7fffffff), a & _mm256_set1_epi32(0x7fffffff))
ONE_OF(f32x4_neg, a ^ _mm_set1_epi32((int)0x80000000), a ^ _mm256_set1_epi32((int)0x80000000))
ONE_OF(f32x4_convert_i32x4_s, _mm_cvtepi32_ps(a), _mm256_cvtepi32_ps(a))
OP v128 i32x4_trunc_sat_f32x4_s(v128 a) {
  v128 number = f32x4_eq(a, a), high = f32x4_ge(a, (v128)_mm_set1_ps(0x1p31f));
  return (_mm_cvttps_epi32(F(a)) ^ high) & number;
}
OP v256 w_i32x4_trunc_sat_f32x4_s(v256 a) {
  v256 number = w_f32x4_eq(a, a), high = w_f32x4_ge(a, (v256)_mm256_set1_ps(0x1p31f));
  return (_mm256_cvttps_epi32(G(a)) ^ high) & number;
}
OP v128 i32x4_trunc_sat_f32x4_u(v128 a) {
  f32x4 f = (f32x4)a;
  u32x4 out = {i32_trunc_sat_f32_u(f[0]), i32_trunc_sat_f32_u(f[1]), i32_trunc_sat_f32_u(f[2]), i32_trunc_sat_f32_u(f[3])};
  return (v128)out;
}
OP v256 w_i32x4_trunc_sat_f32x4_u(v256 a) { return pair(i32x4_trunc_sat_f32x4_u(lo(a)), i32x4_trunc_sat_f32x4_u(hi(a))); }
OP v128 i32x4_shl(v128 a, u32 n) { return (v128)((u32x4)a << (n & 31)); }
OP v256 w_i32x4_shl(v256 a, u32 n) { return (v256)((u32x8)a << (n & 31)); }
OP v128 i32x4_shr_u(v128 a, u32 n) { return (v128)((u32x4)a >> (n & 31)); }
OP v256 w_i32x4_shr_u(v256 a, u32 n) { return (v256)((u32x8)a >> (n & 31)); }
OP v128 i32x4_shr_s(v128 a, u32 n) { return (v128)((i32x4)a >> (i32)(n & 31)); }
OP v256 w_i32x4_shr_s(v256 a, u32 n) { return (v256)((i32x8)a >> (i32)(n & 31)); }
OP v128 v128_bitselect(v128 a, v128 b, v128 c) { return (a & c) | (b & ~c); }
OP v256 w_v128_bitselect(v256 a, v256 b, v256 c) { return (a & c) | (b & ~c); }
OP v128 f32x4_splat(f32 a) { return (v128)_mm_set1_ps(a); }
OP v128 i32x4_splat(u32 a) { return _mm_set1_epi32((int)a); }
OP u32 v128_any_true(v128 a) { return !_mm_testz_si128(a, a); }
OP u32 w_v128_any_true(v256 a) { return !_mm256_testz_si256(a, a); }
OP u32 i32x4_all_true(v128 a) { return _mm_movemask_epi8(_mm_cmpeq_epi32(a, _mm_setzero_si128())) == 0; }
OP u32 w_i32x4_all_true(v256 a) { return _mm256_movemask_epi8(_mm256_cmpeq_epi32(a, _mm256_setzero_si256())) == 0; }
#define f32x4_extract_lane(a, n) (((f32x4)(a))[n])
#define i32x4_extract_lane(a, n) (((u32x4)(a))[n])
#define i64x2_extract_lane(a, n) (((u64x2)(a))[n])
OP v128 replaced(v128 a, f32 v, int n) { f32x4 w = (f32x4)a; w[n] = v; return (v128)w; }
#define f32x4_replace_lane(a, v, n) replaced(a, v, n)
/* bytes of two values: the same within each half */
#define i8x16_shuffle(a, b, ...) ((v128)__builtin_shuffle((u8x16)(a), (u8x16)(b), (u8x16){__VA_ARGS__}))
#define HALF(n) (u8)((n) < 16 ? (n) : (n) + 16)
#define EACH(p, q, r, s, t, u, v, w, x, y, z, c, d, e, f, g) \
  {HALF(p), HALF(q), HALF(r), HALF(s), HALF(t), HALF(u), HALF(v), HALF(w), HALF(x), HALF(y), HALF(z), HALF(c), HALF(d), HALF(e), HALF(f), HALF(g), \
   HALF(p) + 16, HALF(q) + 16, HALF(r) + 16, HALF(s) + 16, HALF(t) + 16, HALF(u) + 16, HALF(v) + 16, HALF(w) + 16, HALF(x) + 16, HALF(y) + 16, \
   HALF(z) + 16, HALF(c) + 16, HALF(d) + 16, HALF(e) + 16, HALF(f) + 16, HALF(g) + 16}
#define w_i8x16_shuffle(a, b, ...) ((v256)__builtin_shuffle((u8x32)(a), (u8x32)(b), (u8x32)EACH(__VA_ARGS__)))
