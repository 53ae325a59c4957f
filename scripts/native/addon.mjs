// The kernels as a module of Node: each called with numbers, on the memory of an ArrayBuffer.
const named = (name) => name.replace(/[^A-Za-z0-9]/g, '_');
const argument = (type, i) => (type === 'i32' ? `word(env, a[${i}])` : `(${type === 'f32' ? 'f32' : 'f64'})real(env, a[${i}])`);

/** C for all exports of a module as `readText` gives it: `create()` makes a set of kernels with `bind(memory)`. */
export function addonOf({ exports, functions }) {
  const calls = exports.map(({ as, name }) => {
    const { params, result } = functions[name],
      call = `${named(name)}(in, in->mem${params.map((t, i) => `, ${argument(t, i)}`).join('')})`;
    return `static napi_value call_${as}(napi_env env, napi_callback_info info) {
  size_t n = ${params.length};
  napi_value a[${params.length}], out = NULL;
  void *data;
  napi_get_cb_info(env, info, &n, a, NULL, &data);
  instance *in = data;
  ${result ? `napi_create_double(env, ${call}, &out);` : `${call};`}
  return out;
}`;
  });
  return `#include <node_api.h>

/* a number, or true and false as WebAssembly takes them */
static u32 word(napi_env env, napi_value v) {
  int32_t n = 0;
  bool is = false;
  if (napi_get_value_int32(env, v, &n) != napi_ok && napi_get_value_bool(env, v, &is) == napi_ok) n = is;
  return (u32)n;
}
static f64 real(napi_env env, napi_value v) {
  f64 n = 0;
  napi_get_value_double(env, v, &n);
  return n;
}
${calls.join('\n')}
static napi_value bind(napi_env env, napi_callback_info info) {
  size_t n = 1, bytes;
  napi_value memory;
  void *data, *at;
  napi_get_cb_info(env, info, &n, &memory, NULL, &data);
  if (napi_get_arraybuffer_info(env, memory, &at, &bytes) == napi_ok) ((instance *)data)->mem = at;
  return NULL;
}
static void let_go(napi_env env, void *data, void *hint) { free(data); }
static void name(napi_env env, napi_value object, const char *as, napi_callback call, void *data) {
  napi_value f;
  napi_create_function(env, as, NAPI_AUTO_LENGTH, call, data, &f);
  napi_set_named_property(env, object, as, f);
}
static napi_value create(napi_env env, napi_callback_info info) {
  napi_value set;
  instance *in;
  if (posix_memalign((void **)&in, 64, (sizeof(instance) + 63) & ~(size_t)63) != 0) {
    napi_throw_error(env, NULL, "no memory for the kernels");
    return NULL;
  }
  memset(in, 0, sizeof(instance));
  napi_create_object(env, &set);
  napi_add_finalizer(env, set, in, let_go, NULL, NULL);
  name(env, set, "bind", bind, in);
${exports.map(({ as }) => `  name(env, set, "${as}", call_${as}, in);`).join('\n')}
  return set;
}
/* whether this machine has what they were compiled for, which may have been another one */
static int runs_here(void) {
#ifdef __AVX512VL__
  if (!__builtin_cpu_supports("avx512vl") || !__builtin_cpu_supports("avx512dq") || !__builtin_cpu_supports("avx512bw")) return 0;
#endif
  return __builtin_cpu_supports("avx2");
}
NAPI_MODULE_INIT() {
  if (runs_here()) name(env, exports, "create", create, NULL);
  return exports;
}
`;
}
