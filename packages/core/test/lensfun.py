"""Drives the installed Lensfun library (0.3): places and gains for one lens, focal length and aperture, as JSON."""
import ctypes, json, sys

lib = ctypes.CDLL('liblensfun.so.1')
P, I, F, S = ctypes.c_void_p, ctypes.c_int, ctypes.c_float, ctypes.c_char_p
for name, result, args in (('lf_db_new', P, []), ('lf_db_load_file', I, [P, S]), ('lf_db_find_lenses_hd', ctypes.POINTER(P), [P, P, S, S, I]), ('lf_modifier_new', P, [P, F, I, I]),
                           ('lf_modifier_initialize', I, [P, P, I, F, F, F, F, I, I, I]), ('lf_modifier_apply_subpixel_geometry_distortion', I, [P, F, F, I, I, P]), ('lf_modifier_apply_color_modification', I, [P, P, F, F, I, I, I, I])):
    f = getattr(lib, name)
    f.restype, f.argtypes = result, args
asked = json.load(sys.stdin)
db = lib.lf_db_new()
assert lib.lf_db_load_file(db, asked['file'].encode()) == 0
lenses = lib.lf_db_find_lenses_hd(db, None, None, asked['model'].encode(), 0)
lens, w, h = lenses[0], asked['width'], asked['height']
# LF_MODIFY_TCA 1, VIGNETTING 2, DISTORTION 8; pixel format F32 is 3; rectilinear 1
m = lib.lf_modifier_new(lens, asked['crop'], w, h)
flags = lib.lf_modifier_initialize(m, lens, 3, asked['focal'], asked['aperture'], 1000.0, 1.0, 1, 11, 0)
out = {'flags': flags, 'places': [], 'gains': []}
for x, y in asked['at']:
    res = (F * 6)()
    if lib.lf_modifier_apply_subpixel_geometry_distortion(m, x, y, 1, 1, ctypes.cast(res, P)):
        out['places'].append(list(res))
    pixel = (F * 3)(0.1, 0.1, 0.1)
    # component roles: red 4, green 5, blue 6
    if lib.lf_modifier_apply_color_modification(m, ctypes.cast(pixel, P), x, y, 1, 1, 4 | 5 << 4 | 6 << 8, 12):
        out['gains'].append(pixel[0] / 0.1)
print(json.dumps(out))
