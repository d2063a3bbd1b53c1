"""A million hexahedra and a million triangles of an independent library, and how long it takes with them: arguments are the folder and how many cells a side."""
import json
import resource
import sys
import time

import vtk

folder, side = sys.argv[1], int(sys.argv[2])


def cpu():
    used = resource.getrusage(resource.RUSAGE_SELF)
    return used.ru_utime + used.ru_stime


def timed(work):
    begun = cpu()
    out = work()
    return cpu() - begun, out


vtk.vtkSMPTools.Initialize(1)
image = vtk.vtkImageData()
image.SetDimensions(side + 1, side + 1, side + 1)
wavelet = vtk.vtkDoubleArray()
wavelet.SetName("p")
wavelet.SetNumberOfTuples(side**3)
for k in range(side**3):
    wavelet.SetValue(k, float(k % 977))
image.GetCellData().SetScalars(wavelet)
append = vtk.vtkAppendFilter()
append.SetInputData(image)
append.Update()
grid = append.GetOutput()
seconds = {}
for name, mode in (("raw", None), ("zlib", "SetCompressorTypeToZLib"), ("ascii", "ascii")):
    writer = vtk.vtkXMLUnstructuredGridWriter()
    writer.SetFileName(f"{folder}/{name}.vtu")
    writer.SetInputData(grid)
    if mode == "ascii":
        writer.SetDataModeToAscii()
    else:
        writer.SetDataModeToAppended()
        writer.EncodeAppendedDataOff()
    if mode != "SetCompressorTypeToZLib":
        writer.SetCompressorTypeToNone()
    writer.Write()

    def read():
        reader = vtk.vtkXMLUnstructuredGridReader()
        reader.SetFileName(f"{folder}/{name}.vtu")
        reader.Update()
        return reader

    seconds[f"read {name}"] = min(timed(read)[0] for _ in range(5))

plane = vtk.vtkPlane()
plane.SetOrigin(0, 0, side / 2 + 0.3)
plane.SetNormal(0, 0, 1)


def cut():
    cutter = vtk.vtkCutter()
    cutter.SetInputData(grid)
    cutter.SetCutFunction(plane)
    cutter.GenerateTrianglesOff()
    cutter.Update()


seconds["cut"] = min(timed(cut)[0] for _ in range(9))


def quality():
    found = vtk.vtkMeshQuality()
    found.SetInputData(grid)
    found.Update()


seconds["quality"] = min(timed(quality)[0] for _ in range(2))
with open(f"{folder}/seconds.json", "w") as file:
    json.dump(seconds, file)
