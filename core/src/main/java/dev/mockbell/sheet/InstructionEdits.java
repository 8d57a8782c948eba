package dev.mockbell.sheet;

import dev.mockbell.problem.Problem;
import java.util.Optional;
import java.util.regex.Pattern;
import org.w3c.dom.Element;
import org.w3c.dom.Node;
import org.w3c.dom.ProcessingInstruction;
import org.w3c.dom.Text;

/** Edits of the instructions around an element that say how often it is written (see {@code expression.Template}). */
final class InstructionEdits {
    private static final Pattern FOR = Pattern.compile("for\\s+\\$[A-Za-z_][\\w.-]*\\s+in\\s+\\S.*", Pattern.DOTALL);
    private static final Pattern IF = Pattern.compile("if\\s+\\S.*", Pattern.DOTALL);

    private final SheetTree tree;

    InstructionEdits(SheetTree tree) {
        this.tree = tree;
    }

    /** What stands before an element: {@code for $hut in //hut}; empty for nothing. */
    static String of(Node node) {
        return before(node)
                .map(pi -> pi.getTarget() + " " + pi.getData().strip())
                .orElse("");
    }

    private static Optional<ProcessingInstruction> before(Node node) {
        Node at = node == null ? null : node.getPreviousSibling();
        while (at instanceof Text text && text.getData().isBlank()) {
            at = at.getPreviousSibling();
        }
        return at instanceof ProcessingInstruction pi
                        && (pi.getTarget().equals("for") || pi.getTarget().equals("if"))
                ? Optional.of(pi)
                : Optional.empty();
    }

    private static Optional<ProcessingInstruction> after(Node node) {
        Node at = node.getNextSibling();
        while (at instanceof Text text && text.getData().isBlank()) {
            at = at.getNextSibling();
        }
        return at instanceof ProcessingInstruction pi && pi.getTarget().equals("end")
                ? Optional.of(pi)
                : Optional.empty();
    }

    /** Puts an instruction around an element, in place of the one that is there; an empty one takes it away. */
    void instruct(SheetRow row, String text) {
        String typed = text.strip();
        if (!(row.target().node() instanceof Element element) || row.target().parent() == null) {
            throw Problem.input("Only an element within the message can be repeated", null, null);
        }
        if (!typed.isEmpty()
                        && !FOR.matcher(typed).matches()
                        && !IF.matcher(typed).matches()
                || typed.contains("?>")) {
            throw Problem.input(
                    "“" + typed + "” does not say how often", null, "Write “for $name in XPATH”, or “if XPATH”.");
        }
        Element parent = row.target().parent();
        before(element).ifPresent(was -> {
            after(element).ifPresent(parent::removeChild);
            parent.removeChild(was);
        });
        if (!typed.isEmpty()) {
            String[] parts = typed.split("\\s+", 2);
            parent.insertBefore(tree.document().createProcessingInstruction(parts[0], parts[1]), element);
            parent.insertBefore(tree.document().createProcessingInstruction("end", ""), element.getNextSibling());
        }
        tree.touched(parent);
    }
}
