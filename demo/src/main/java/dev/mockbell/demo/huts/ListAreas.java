package dev.mockbell.demo.huts;

import jakarta.xml.bind.annotation.XmlAccessType;
import jakarta.xml.bind.annotation.XmlAccessorType;
import jakarta.xml.bind.annotation.XmlRootElement;
import jakarta.xml.bind.annotation.XmlType;

/** Asks for the areas. */
@XmlAccessorType(XmlAccessType.FIELD)
@XmlRootElement(name = "ListAreas")
@XmlType(name = "")
public final class ListAreas {}
