from PyQt6.QtWidgets import QApplication

from tests.app.user import User


def test_shot(window, workspace):
    user = User(window)
    window.resize(1280, 800)
    workspace.open("button")
    QApplication.processEvents()
    window.sheet_tabs.choose("Axes")
    user.wait(200)
    window.grab().save("/tmp/axes1.png")
    window.run_action("add-axis")
    user.type("State 2: Default, Over, Down, Loading", enter=False)
    user.wait(100)
    window.grab().save("/tmp/axes2.png")
