package dev.mockbell.desktop.part;

import java.util.ArrayList;
import java.util.EnumMap;
import java.util.List;
import java.util.Locale;
import java.util.Map;
import javafx.css.CssMetaData;
import javafx.css.Styleable;
import javafx.css.StyleableProperty;
import javafx.css.StyleablePropertyFactory;
import javafx.scene.layout.Region;
import javafx.scene.paint.Color;

/**
 * Brings colours of the stylesheet to what is drawn on a canvas, which no style reaches. It is put beside the canvas, takes
 * no room, and tells when a colour becomes another, as with a change of the theme.
 */
public final class Palette extends Region {
    /** What colours are for; each is the property {@code -mb-draw-…} of the same name in small letters. */
    public enum Role {
        GRID,
        WORDS,
        NOW,
        CALLED,
        ANSWERED,
        FAILED,
        FAULT,
        DUE,
        DONE,
        DENSITY,
        LIMIT,
        CURVE,
        GROUND;

        private String property() {
            return "-mb-draw-" + name().toLowerCase(Locale.ROOT);
        }
    }

    private final StyleablePropertyFactory<Palette> factory =
            new StyleablePropertyFactory<>(Region.getClassCssMetaData());
    private final Map<Role, StyleableProperty<Color>> colours = new EnumMap<>(Role.class);
    private final List<CssMetaData<? extends Styleable, ?>> all = new ArrayList<>();

    /** @param changed runs when a colour has become another */
    @SuppressWarnings("unchecked") // the factory's properties are observable, which its signature does not say
    public Palette(Runnable changed) {
        getStyleClass().add("palette");
        setManaged(false);
        setMouseTransparent(true);
        all.addAll(Region.getClassCssMetaData());
        for (Role role : Role.values()) {
            var property = factory.createStyleableColorProperty(
                    this, role.name(), role.property(), p -> p.colours.get(role), Color.GRAY);
            colours.put(role, property);
            all.add(property.getCssMetaData());
            ((javafx.beans.value.ObservableValue<Color>) property).addListener((o, was, now) -> changed.run());
        }
    }

    /** The colour of a role. */
    public Color of(Role role) {
        return colours.get(role).getValue();
    }

    /** The colour of a role, let through by a share from 0 to 1. */
    public Color of(Role role, double share) {
        return of(role).deriveColor(0, 1, 1, share);
    }

    @Override
    public List<CssMetaData<? extends Styleable, ?>> getCssMetaData() {
        return all;
    }
}
