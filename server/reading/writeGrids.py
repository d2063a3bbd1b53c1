"""Writes grids of every kind in every encoding with a general-purpose library, and what they hold as plain JSON: for a test that reads them back."""
import json
import os
import sys

import numpy
import vtk
from vtk.util.numpy_support import numpy_to_vtk, vtk_to_numpy

out = sys.argv[1]
KINDS = {
    "triangle": 5, "quad": 9, "tetrahedron": 10, "hexahedron": 12, "wedge": 13, "pyramid": 14,
    "quadratic_triangle": 22, "quadratic_quad": 23, "quadratic_tetrahedron": 24, "quadratic_hexahedron": 25, "quadratic_wedge": 26,
    "quadratic_pyramid": 27,
}


def add(data, name, values):
    array = numpy_to_vtk(values, deep=1)
    array.SetName(name)
    data.AddArray(array)


def values_on(grid):
    cells, points = grid.GetNumberOfCells(), grid.GetNumberOfPoints()
    add(grid.GetCellData(), "u", numpy.sin(numpy.arange(3.0 * cells)).reshape(cells, 3))
    add(grid.GetPointData(), "p", numpy.cos(numpy.arange(points)).astype("f4"))


def told(grid, connectivity):
    plain = lambda a: vtk_to_numpy(a).astype("f8").ravel().tolist()
    points = [c for k in range(grid.GetNumberOfPoints()) for c in grid.GetPoint(k)]
    return {"points": points, "corners": connectivity, "u": plain(grid.GetCellData().GetArray("u")), "p": plain(grid.GetPointData().GetArray("p"))}


def write(writer, grid, name, ending):
    for mode in ("ascii", "binary", "appended"):
        for packing in ("None", "ZLib", "LZ4"):
            if mode == "ascii" and packing != "None":
                continue
            for header in (32, 64):
                w = writer()
                w.SetInputData(grid)
                getattr(w, f"SetDataModeTo{mode.capitalize()}")()
                w.SetEncodeAppendedData(header == 64)
                getattr(w, f"SetHeaderTypeToUInt{header}")()
                getattr(w, f"SetCompressorTypeTo{packing}")()
                if packing != "None":
                    w.SetBlockSize(256)
                w.SetFileName(os.path.join(out, f"{name}-{mode}-{packing}-{header}.{ending}"))
                w.Write()


def keep(name, content):
    with open(os.path.join(out, f"{name}.json"), "w") as file:
        json.dump(content, file)


for name, kind in KINDS.items():
    source = vtk.vtkCellTypeSource()
    source.SetCellType(kind)
    source.SetBlocksDimensions(2, 2, 2)
    source.SetOutputPrecision(1)
    source.Update()
    grid = source.GetOutput()
    values_on(grid)
    keep(name, told(grid, vtk_to_numpy(grid.GetCells().GetConnectivityArray()).tolist()))
    write(vtk.vtkXMLUnstructuredGridWriter, grid, name, "vtu")

sphere = vtk.vtkSphereSource()
sphere.SetOutputPointsPrecision(1)
sphere.Update()
surface = sphere.GetOutput()
values_on(surface)
keep("surface", told(surface, vtk_to_numpy(surface.GetPolys().GetConnectivityArray()).tolist()))
write(vtk.vtkXMLPolyDataWriter, surface, "surface", "vtp")

image = vtk.vtkImageData()
image.SetDimensions(4, 3, 2)
image.SetOrigin(1, 2, 3)
image.SetSpacing(0.1, 0.2, 0.3)
values_on(image)
keep("image", told(image, []))
write(vtk.vtkXMLImageDataWriter, image, "image", "vti")
