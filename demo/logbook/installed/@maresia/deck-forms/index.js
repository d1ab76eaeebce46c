import { createElement } from "react";
import { Text } from "react-native";

export const TripForm = () => createElement(Text, null, "From, to, when");
