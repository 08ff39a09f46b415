"""Builds the kernels as a plain shared library: no Python interface, so one wheel serves every version of Python."""

from __future__ import annotations

import re
import sysconfig
from pathlib import Path

from setuptools import Extension, setup
from setuptools.command.bdist_wheel import bdist_wheel
from setuptools.command.build_ext import build_ext

NATIVE = "src/young_tremor/kernels/native"
OLDEST = (2, 17)  # glibc that a wheel is marked for, if the library asks for nothing newer


class BuildLibrary(build_ext):
    """A shared library under its own name; where no compiler is found the stand-ins run instead."""

    def get_ext_filename(self, fullname: str) -> str:
        return str(Path(*fullname.split("."))) + ".so"

    def get_export_symbols(self, ext: Extension) -> list[str]:
        return []


class Wheel(bdist_wheel):
    """A wheel for one kind of machine and all versions of Python."""

    def finalize_options(self) -> None:
        super().finalize_options()
        self.root_is_pure = False

    def get_tag(self) -> tuple[str, str, str]:
        platform = sysconfig.get_platform().replace("-", "_").replace(".", "_")
        return "py3", "none", self._many_linux(platform)

    def _many_linux(self, platform: str) -> str:
        built = [*Path(self.bdist_dir or "build").rglob("_kernels.so"), *Path("build").rglob("_kernels.so")]
        if not built or not platform.startswith("linux_"):
            return platform
        asked = [tuple(map(int, found)) for found in re.findall(rb"GLIBC_(\d+)\.(\d+)", built[0].read_bytes())]
        newest = max(asked, default=OLDEST)
        major, minor = max(newest, OLDEST)
        return platform.replace("linux_", f"manylinux_{major}_{minor}_")


setup(
    ext_modules=[
        Extension(
            "young_tremor.kernels._kernels",
            [f"{NATIVE}/kernels.c"],
            depends=[str(path) for path in sorted(Path(NATIVE).glob("*.h"))],
            # doubles and floats as NumPy has them: no fused products, whole numbers that wrap
            extra_compile_args=[
                *(
                    "-std=gnu11",
                    "-O3",
                    "-fwrapv",
                    "-ffp-contract=off",
                    "-fno-math-errno",
                    "-fno-trapping-math",
                    "-fvisibility=hidden",
                ),
                *("-Wall", "-Wextra", "-Wno-psabi", "-g0"),
            ],
            libraries=["m"],
            optional=True,
        )
    ],
    cmdclass={"build_ext": BuildLibrary, "bdist_wheel": Wheel},
)
