"""Small systems of equations, a handful of rows: Cholesky's way. Any handbook of numerical methods."""

from __future__ import annotations

import math
from collections.abc import Sequence


def cholesky(matrix: Sequence[Sequence[float]]) -> list[list[float]]:
    """Lower triangle whose product with its transpose is a symmetric, positive matrix; ValueError where it is not.

    >>> cholesky([[4.0, 2.0], [2.0, 5.0]])
    [[2.0, 0.0], [1.0, 2.0]]
    """
    n = len(matrix)
    root = [[0.0] * n for _ in range(n)]
    for i in range(n):
        for k in range(i + 1):
            rest = matrix[i][k] - sum(root[i][j] * root[k][j] for j in range(k))
            if i > k:
                root[i][k] = rest / root[k][k]
            elif rest > 0:
                root[i][i] = math.sqrt(rest)
            else:
                raise ValueError("the matrix is not positive")
    return root


def whitened(root: Sequence[Sequence[float]], right: Sequence[float]) -> list[float]:
    """y of root y = right: values that err with a covariance, of which this is the Cholesky root, as ones that err alike.

    >>> whitened([[2.0, 0.0], [1.0, 2.0]], [8.0, 10.0])
    [4.0, 3.0]
    """
    y: list[float] = []
    for i, value in enumerate(right):
        y.append((value - sum(root[i][j] * y[j] for j in range(i))) / root[i][i])
    return y


def solved(root: Sequence[Sequence[float]], right: Sequence[float]) -> list[float]:
    """x of matrix x = right, with the matrix as its Cholesky root.

    >>> solved([[2.0, 0.0], [1.0, 2.0]], [8.0, 10.0])
    [1.25, 1.5]
    """
    n, y = len(right), whitened(root, right)
    x = [0.0] * n
    for i in reversed(range(n)):
        x[i] = (y[i] - sum(root[j][i] * x[j] for j in range(i + 1, n))) / root[i][i]
    return x
