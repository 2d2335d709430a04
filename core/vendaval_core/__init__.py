"""The rules of Vendaval: pure Python with numpy and scipy, no clock, no global random state."""
