"""Sends colours through table files by OpenColorIO (Debian python3-pyopencolorio, the library ociochecklut drives), as JSON."""
import json, sys
import PyOpenColorIO as ocio

asked = json.load(sys.stdin)
out = []
for job in asked['jobs']:
    transform = ocio.FileTransform(job['file'], interpolation=getattr(ocio, 'INTERP_' + job.get('interpolation', 'TETRAHEDRAL')))
    if 'cccid' in job:
        transform.setCCCId(job['cccid'])
    if hasattr(transform, 'setCDLStyle'):
        transform.setCDLStyle(ocio.CDL_ASC)
    # no shortcuts: every digit counts here
    cpu = ocio.Config.CreateRaw().getProcessor(transform).getOptimizedCPUProcessor(ocio.OPTIMIZATION_LOSSLESS)
    out.append([cpu.applyRGB(list(c)) for c in asked['colours']])
print(json.dumps(out))
