"""What is glued to what: the joints of a part, those it tells of and those that follow from how it is put together."""

from __future__ import annotations

from yawning_lantern.assembly.part import HOST, Bond, Joint, Part


def joints_of(part: Part) -> tuple[Joint, ...]:
    """Every joint of a part: its foot on a host, then what is set on its panels, its rings, and what it tells of."""
    told = {frozenset((joint.a, joint.b)): joint for joint in part.joints}
    joints: list[Joint] = []

    def add(joint: Joint) -> None:
        joints.append(told.pop(frozenset((joint.a, joint.b)), joint))

    for k, instance in enumerate(part.instances):
        foot = (instance.id, instance.root.panel)
        if instance.attach is not None:
            bond: Bond = instance.attach.kind
            add(Joint(foot, (instance.attach.host, instance.attach.panel), bond))
        elif k == 0:
            slides = any(copy == instance.id for swing in part.swings for copy, _ in swing.slides)
            add(Joint(foot, HOST, "slide" if slides else "glue"))
    for loop in part.loops:
        for closure in loop.closures:
            add(Joint(closure.a, closure.b, label=closure.label))
    return (*joints, *told.values())
