"""At the bench, one number at a time. Scores: which edge is at the fence, which face is up, what is read off."""

from yawning_lantern.bench.score_plan import Edge, Placing, Reading, ScorePlan, score_plan
from yawning_lantern.bench.scores import Face
from yawning_lantern.bench.settings import fewest_numbers

__all__ = ["Edge", "Face", "Placing", "Reading", "ScorePlan", "fewest_numbers", "score_plan"]
