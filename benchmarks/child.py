"""Programs that the measurements start as processes of their own."""

_MEMORY = """
def told():
    import resource
    with open('/proc/self/statm') as file:
        pages = int(file.read().split()[1])
    print(pages * resource.getpagesize() / 1e6, flush=True)
"""

EMPTY = (
    _MEMORY
    + """
import os, sys
from PySide6.QtWidgets import QApplication, QMainWindow
class Window(QMainWindow):
    def paintEvent(self, event):
        super().paintEvent(event)
        told()
        os._exit(0)
app = QApplication(sys.argv)
window = Window()
window.resize(1280, 800)
window.show()
app.exec()
"""
)

_PROGRAM = """
import sys, tempfile
from pathlib import Path
from PySide6.QtCore import QSettings
from yawning_lantern.desktop.__main__ import make_application
from yawning_lantern.desktop.window import MainWindow
app = make_application()
state = Path(tempfile.mkdtemp())
window = MainWindow(state, QSettings(str(state / 's.ini'), QSettings.Format.IniFormat))
"""

SHELL = (
    _MEMORY
    + _PROGRAM
    + """
import os
from yawning_lantern.desktop.band import PageBand
paint = PageBand.paintEvent
def painted(self, event):
    paint(self, event)
    told()
    os._exit(0)
PageBand.paintEvent = painted
window.show()
app.exec()
"""
)

FORM = (
    _MEMORY
    + _PROGRAM
    + """
from yawning_lantern.desktop.shot import settle
window.ready.connect(lambda: window.bench.open_demo())
window.show()
settle(app, window)
window.repaint()
told()
import os
os._exit(0)
"""
)

REPAINT = (
    _PROGRAM
    + """
import time
from PySide6.QtCore import QEventLoop
from yawning_lantern.desktop.__main__ import spare_the_collector
from yawning_lantern.desktop.shot import settle
window.ready.connect(lambda: window.bench.open_demo())
window.show()
settle(app, window)
spare_the_collector()
session = window.bench.session
painted = []
for k in range(60):
    begin = time.perf_counter()
    session.give('box', 'base', 114.3 - (k % 4) * 1.5875, 'edit')
    while not session.is_idle:  # as the program waits: asleep, so that the worker has the interpreter
        app.processEvents(QEventLoop.ProcessEventsFlag.WaitForMoreEvents)
    app.processEvents()
    painted.append(time.perf_counter() - begin)
    end = time.monotonic() + 0.2
    while time.monotonic() < end:
        app.processEvents()
        time.sleep(0.005)
print('\\n'.join(map(str, painted[5:])))
sys.stdout.flush()
import os
os._exit(0)
"""
)
