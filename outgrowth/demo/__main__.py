"""Writes the demo document to the file that ships with the program."""

from outgrowth.core.exchange.native import save
from outgrowth.demo.ferry import ferry_line
from outgrowth.resources import DEMO

save(ferry_line(), DEMO)
print(DEMO.name)
