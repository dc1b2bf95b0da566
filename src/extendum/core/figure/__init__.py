"""A small skeleton: human proportions, poses as angles and reaches, forward kinematics, limits, mirroring."""
