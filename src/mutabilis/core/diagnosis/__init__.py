"""Why a batch came out as it did: features of a batch, a small network of causes, the next question, a correction that is run back."""
