"""Stateless questions and answers, one module or package per calculator."""
