"""Spur gear teeth: geometry, tables and strength, shared by every link family that has them."""
