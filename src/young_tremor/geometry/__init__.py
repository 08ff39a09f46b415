"""Matrices and the crop that covers them. Frame units, y down; see ``camera``."""
