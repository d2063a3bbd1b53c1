"""Surfaces and a grid in space of an independent library, with its own figures for them: argument is the folder."""
import json
import math
import random
import sys

import vtk

folder = sys.argv[1]


def written(writer, name, data):
    writer.SetFileName(f"{folder}/{name}")
    writer.SetInputData(data)
    writer.Write()


# A ball drawn out along one axis and moved, as triangles.
source = vtk.vtkSphereSource()
source.SetThetaResolution(24)
source.SetPhiResolution(16)
source.SetRadius(0.7)
transform = vtk.vtkTransform()
transform.Translate(0.3, -0.2, 0.5)
transform.Scale(1.0, 2.0, 0.5)
moved = vtk.vtkTransformPolyDataFilter()
moved.SetInputConnection(source.GetOutputPort())
moved.SetTransform(transform)
moved.Update()
ball = moved.GetOutput()
mass = vtk.vtkMassProperties()
mass.SetInputData(ball)
mass.Update()

for binary in (False, True):
    kind = "binary" if binary else "text"
    stl = vtk.vtkSTLWriter()
    stl.SetFileTypeToBinary() if binary else stl.SetFileTypeToASCII()
    written(stl, f"ball-{kind}.stl", ball)
    for order in ("little", "big") if binary else ("text",):
        ply = vtk.vtkPLYWriter()
        ply.SetFileTypeToBinary() if binary else ply.SetFileTypeToASCII()
        if order == "big":
            ply.SetDataByteOrderToBigEndian()
        else:
            ply.SetDataByteOrderToLittleEndian()
        written(ply, f"ball-{order}.ply", ball)

# Tetrahedra over scattered points, with a value on each.
random.seed(5)
points = vtk.vtkPoints()
points.SetDataTypeToDouble()
values = vtk.vtkDoubleArray()
values.SetName("p")
for _ in range(400):
    x, y, z = (random.uniform(-1, 1) for _ in range(3))
    points.InsertNextPoint(x, y, z)
    values.InsertNextValue(math.sin(2 * x) + y * z)
cloud = vtk.vtkPolyData()
cloud.SetPoints(points)
cloud.GetPointData().SetScalars(values)
delaunay = vtk.vtkDelaunay3D()
delaunay.SetInputData(cloud)
delaunay.Update()
grid = delaunay.GetOutput()
writer = vtk.vtkXMLUnstructuredGridWriter()
writer.SetDataModeToAppended()
written(writer, "cloud.vtu", grid)

quality = vtk.vtkMeshQuality()
quality.SetInputData(grid)
quality.SetTetQualityMeasureToRadiusRatio()
quality.Update()
ratios = quality.GetOutput().GetCellData().GetArray("Quality")
tetrahedra = [c for c in range(grid.GetNumberOfCells()) if grid.GetCellType(c) == 10]
sizes = vtk.vtkCellSizeFilter()
sizes.SetInputData(grid)
sizes.Update()
volumes = sizes.GetOutput().GetCellData().GetArray("Volume")

cuts = {}
for axis, at in ((0, 0.13), (1, -0.4), (2, 0.55)):
    plane = vtk.vtkPlane()
    plane.SetOrigin(*(at if d == axis else 0 for d in range(3)))
    plane.SetNormal(*(1 if d == axis else 0 for d in range(3)))
    cutter = vtk.vtkCutter()
    cutter.SetInputData(grid)
    cutter.SetCutFunction(plane)
    triangles = vtk.vtkTriangleFilter()
    triangles.SetInputConnection(cutter.GetOutputPort())
    triangles.Update()
    integral = vtk.vtkIntegrateAttributes()
    integral.SetInputConnection(triangles.GetOutputPort())
    integral.Update()
    out = integral.GetOutput()
    cuts[axis] = {
        "at": at,
        "area": out.GetCellData().GetArray("Area").GetValue(0),
        "integral": out.GetPointData().GetArray("p").GetValue(0),
    }

with open(f"{folder}/figures.json", "w") as file:
    json.dump(
        {
            "ball": {"area": mass.GetSurfaceArea(), "volume": mass.GetVolume(), "points": ball.GetNumberOfPoints(), "faces": ball.GetNumberOfCells()},
            "cloud": {
                "cells": len(tetrahedra),
                "volume": sum(volumes.GetValue(c) for c in tetrahedra),
                "worst": max(ratios.GetValue(c) for c in tetrahedra),
                "median": sorted(ratios.GetValue(c) for c in tetrahedra)[len(tetrahedra) // 2],
            },
            "cuts": cuts,
        },
        file,
    )
