package dev.mockbell.sheet;

import dev.mockbell.schema.SoapEncoding;
import dev.mockbell.xml.Xml;
import java.util.List;
import java.util.Optional;
import java.util.regex.Matcher;
import java.util.regex.Pattern;
import org.w3c.dom.Element;

/** Makes room in arrays of SOAP's encoding, whose items no content model declares (SOAP 1.1 §5.4.2, SOAP 1.2 part 2 §3.1.6). */
public final class EncodedItems {
    private static final Pattern STEP = Pattern.compile("([^\\[\\]]+)(?:\\[([0-9]{1,6})])?");
    private static final int MOST = 10_000;

    private EncodedItems() {}

    /**
     * Follows a path of names and positions from an element on and adds copies of an array's last item where the path means one
     * that is not there yet; the array then says how many it holds.
     *
     * @param path from the root, {@code /call/huts/item[3]/id}
     * @return whether an item was added
     */
    public static boolean reach(Element root, String path) {
        String[] steps = path.strip().replaceFirst("^/+", "").split("/");
        Element at = steps.length > 0 && local(steps[0]).equals(root.getLocalName()) ? root : null;
        boolean added = false;
        for (int i = 1; i < steps.length && at != null; i++) {
            Optional<Element> there = child(at, steps[i]);
            if (there.isEmpty() && isArray(at)) {
                added |= grow(at, position(steps[i]));
                there = child(at, steps[i]);
            }
            at = there.orElse(null);
        }
        return added;
    }

    private static boolean isArray(Element element) {
        return element.hasAttributeNS(SoapEncoding.V11, "arrayType")
                || element.hasAttributeNS(SoapEncoding.V12, "arraySize");
    }

    private static boolean grow(Element array, int wanted) {
        List<Element> items = Xml.children(array);
        if (items.isEmpty() || wanted <= items.size() || wanted > MOST) {
            return false;
        }
        Element last = items.get(items.size() - 1);
        for (int i = items.size(); i < wanted; i++) {
            array.insertBefore(last.cloneNode(true), last.getNextSibling());
        }
        count(array, wanted);
        return true;
    }

    private static void count(Element array, int items) {
        if (array.hasAttributeNS(SoapEncoding.V11, "arrayType")) {
            var type = array.getAttributeNodeNS(SoapEncoding.V11, "arrayType");
            type.setValue(type.getValue().replaceFirst("\\[[0-9]*]$", "[" + items + "]"));
        }
        if (array.hasAttributeNS(SoapEncoding.V12, "arraySize")) {
            array.getAttributeNodeNS(SoapEncoding.V12, "arraySize").setValue(Integer.toString(items));
        }
    }

    private static Optional<Element> child(Element holder, String step) {
        List<Element> named = Xml.children(holder).stream()
                .filter(c -> c.getLocalName().equals(local(step)))
                .toList();
        int at = position(step) - 1;
        return at >= 0 && at < named.size() ? Optional.of(named.get(at)) : Optional.empty();
    }

    private static String local(String step) {
        Matcher read = STEP.matcher(step);
        return (read.matches() ? read.group(1) : step).replaceFirst("^.*:", "");
    }

    private static int position(String step) {
        Matcher read = STEP.matcher(step);
        return read.matches() && read.group(2) != null ? Integer.parseInt(read.group(2)) : 1;
    }
}
